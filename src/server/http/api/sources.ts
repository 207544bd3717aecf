import type { NewWords } from '../../../core/plan/index.ts';
import type { ClassConstructor } from 'class-transformer';
import { Hono } from 'hono';
import {
  PublishInput,
  FileDocumentInput,
  FormDocumentInput,
  FormsInput,
  PostsDocumentInput,
  ScheduleInput,
  ShopDocumentInput,
  SourceInput,
  type SampleView,
  type SourceVersionView,
  type SourceView,
  RegistrationDocumentInput,
  ChatDocumentInput,
} from '../../../contract/source.ts';
import { printFormToCopy } from '../../../forms/index.ts';
import { exampleValues, readMadeSource, type MadeDocument } from '../../../core/intake/index.ts';
import { ShownPageInput, type ShownPage } from '../../../contract/shownPage.ts';
import { PagesInput } from '../../../contract/installation.ts';
import { visitSheets } from '../../connecting/visiting.ts';
import { checkInstallation } from '../../connecting/installation.ts';
import { connectShop } from '../../commands/sources/connectShop.ts';
import { addSource } from '../../commands/sources/addSource.ts';
import { startTold } from '../../commands/sources/startTold.ts';
import { duplicateSource } from '../../commands/sources/duplicateSource.ts';
import { publishingIssues } from '../../commands/sources/publishingIssues.ts';
import { newWordsOf } from '../../commands/sources/wordsOf.ts';
import { publishSource } from '../../commands/sources/publishSource.ts';
import { saveSourceDraft } from '../../commands/sources/saveSourceDraft.ts';
import { scheduleSource } from '../../commands/sources/scheduleSource.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { readDotLines, countBySource, DAY_MS } from '../../store/figures.ts';
import { listRoutes } from '../../store/routes.ts';
import {
  findSource,
  listSources,
  listSourceVersions,
  readSourceVersion,
  type SourceRecord,
} from '../../store/sources.ts';
import { readKnownPeople, identityClaims } from '../../store/people/index.ts';
import { readSamples } from '../../store/submissions.ts';
import { NOBODY, type KnownSample } from '../../../core/plan/index.ts';
import { isChanged } from '../../store/versions.ts';
import { pagesMetOn } from '../../watching/silence.ts';
import { allow, type Session } from '../gates.ts';
import { entryRoutes, archiveAndDeleteRoutes } from './entries.ts';
import { sourceLines } from './lines.ts';
import { outcome } from '../outcome.ts';
import { mustRead, notFound, Problem, readInput, revisionIn } from '../problems.ts';
import { visited } from '../visited.ts';
import { shopRoutes } from './shops.ts';
import { feedRoutes } from './feeds.ts';
import { importRoutes } from './imports.ts';
import { webhookRoutes } from './webhooks.ts';
import { sourceFigureRoutes } from './sourceFigures.ts';
import { exported, plain, readExported } from './exchange.ts';
import { pausingRoutes } from './pausing.ts';

/** How many samples a route is tried on at once. */
const MOST_SAMPLES = 500;

export function sourceRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now, config } = context;

  async function must(id: string): Promise<SourceRecord> {
    const record = await findSource(store.db, id);
    if (!record) throw notFound('source');
    return record;
  }

  async function views(records: SourceRecord[]): Promise<SourceView[]> {
    const routes = await listRoutes(store.db);
    const hours = await readDotLines(store.db, 'source', now());
    const today = await countBySource(store.db, now() - DAY_MS);
    return records.map((record) => {
      const {
        id,
        name,
        folder,
        state,
        liveVersion,
        draft,
        draftAt,
        publishedAt,
        live,
        publicId,
        publishAt,
        publishBy,
        archivedAt,
      } = record;
      const postUrl = `${config.publicUrl}/in/${publicId}`;
      return {
        id,
        name,
        folder,
        state,
        liveVersion,
        changed: isChanged(record),
        draft,
        draftAt: isoTime(draftAt),
        publishedAt: isoTime(publishedAt),
        goesLive: publishAt === null ? null : { at: new Date(publishAt).toISOString(), by: publishBy ?? '' },
        keptBack: publishAt !== null && publishAt <= now() ? publishingIssues(draft).map(({ detail }) => detail) : [],
        archivedAt: isoTime(archivedAt),
        live,
        postUrl,
        html: htmlOf(postUrl, live ?? draft, liveVersion),
        routes: routes
          .filter((route) => route.draft.sourceIds.includes(id))
          .map((route) => ({ id: route.id, name: route.name, state: route.state })),
        today: today.get(id) ?? 0,
        hours: hours(id),
      };
    });
  }

  async function viewOf(id: string): Promise<SourceView> {
    const [view] = await views([await must(id)]);
    if (!view) throw notFound('source');
    return view;
  }

  app.route('/', entryRoutes(context, 'source', sourceLines));
  app.route('/', shopRoutes(context, must));
  app.get('/', allow('sources:read'), async (c) => c.json(await views(await listSources(store.db))));
  /** Pages of sites, not ours, on which our script showed any form lately, those with most visitors first. */
  app.get('/pages', allow('sources:read'), async (c) => {
    const own = new URL(context.config.publicUrl).origin;
    const met = await pagesMetOn(context, 'every', 'shown');
    return c.json(met.filter((page) => URL.canParse(page) && new URL(page).origin !== own));
  });
  app.get('/:id', allow('sources:read'), async (c) => c.json(await viewOf(c.req.param('id'))));

  app.post('/', allow('sources:write'), async (c) => {
    const input = await readInput(c, SourceInput);
    const actor = c.get('actor');
    const { name, kind, start, page, tell } = input;
    if (tell !== '' && kind !== 'form')
      throw new Problem(422, 'invalid', 'Only a form can be live at once.', [
        { pointer: '/tell', detail: 'This kind of source has to be looked at before it goes live.' },
      ]);
    const id = outcome(
      kind === 'shop'
        ? await connectShop(actor, context, input)
        : tell === ''
          ? await addSource(actor, context, { name, kind, start, page })
          : await startTold(actor, context, { name, kind, start, page, tell }),
    );
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id/draft', allow('sources:write'), async (c) => {
    const { id, draft: before } = await must(c.req.param('id'));
    const typed = plain(await readInput(c, classOf(before)));
    // Of which shop it is, was said when it was made.
    const draft =
      typed.kind === 'shop' && before.kind === 'shop' ? { ...typed, connectionId: before.connectionId } : typed;
    outcome(await saveSourceDraft(c.get('actor'), context, { id, draft, revision: revisionIn(c) }));
    return c.json(await viewOf(id));
  });

  app.post('/:id/publish', allow('sources:write'), async (c) => {
    const id = c.req.param('id');
    // Whoever has nothing to say beside sends nothing.
    const isSaid = Number(c.req.header('content-length') ?? 0) > 0 || c.req.header('transfer-encoding') !== undefined;
    const said = isSaid ? await readInput(c, PublishInput) : {};
    outcome(await publishSource(c.get('actor'), context, id, said));
    return c.json(await viewOf(id));
  });

  /** Words in the draft that live routes would take as consent, and of which nobody has said what they are for. */
  app.get('/:id/new-words', allow('sources:read'), async (c) => {
    const { id, draft } = await must(c.req.param('id'));
    return c.json((await newWordsOf(store.db, id, draft)) satisfies NewWords[]);
  });

  app.post('/:id/schedule', allow('sources:write'), async (c) => {
    const { at } = await readInput(c, ScheduleInput);
    const id = c.req.param('id');
    outcome(await scheduleSource(c.get('actor'), context, { id, at }));
    return c.json(await viewOf(id));
  });

  app.route('/', archiveAndDeleteRoutes(context, 'source', viewOf));

  app.post('/:id/duplicate', allow('sources:write'), async (c) => {
    const id = outcome(await duplicateSource(c.get('actor'), context, c.req.param('id')));
    return c.json(await viewOf(id), 201);
  });

  app.get('/:id/versions', allow('sources:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    const versions = await listSourceVersions(store.db, id);
    return c.json(
      versions.map(({ version, publishedAt }) => ({
        version,
        publishedAt: new Date(publishedAt).toISOString(),
      })) satisfies SourceVersionView[],
    );
  });

  app.get('/:id/versions/:version', allow('sources:read'), async (c) => {
    const { id } = await must(c.req.param('id'));
    const document = await readSourceVersion(store.db, id, Number(c.req.param('version')));
    if (!document) throw notFound('version');
    return c.json(document);
  });

  app.get('/:id/export', allow('sources:read'), async (c) => {
    const { name, draft } = await must(c.req.param('id'));
    return exported(name, 'source', { name, document: draft });
  });

  /** Visits pages, and says what is there of the form. */
  app.post('/:id/installation', allow('sources:write'), async (c) => {
    const { pages } = await readInput(c, PagesInput);
    const { publicId, live } = await must(c.req.param('id'));
    if (live?.kind !== 'form') throw new Problem(409, 'not-live', 'Publish the form first.');
    return c.json(await checkInstallation(context, { publicId, live }, pages));
  });

  /** A page of the web, to be looked at with a form on it. */
  app.post('/shown-page', allow('sources:write'), async (c) => {
    const { url } = await readInput(c, ShownPageInput);
    const html = await visited(context, url, '');
    // What is in the page stays in it.
    const named = mustRead(await context.reading.read('sheetNames', { html, url }));
    const apart = named.filter((sheet) => 'url' in sheet);
    const sheets = await visitSheets(context, apart);
    const shown = mustRead(await context.reading.read('page', { html, url, sheets }));
    return c.json({ html: shown } satisfies ShownPage);
  });

  /** The forms in somebody's HTML, or on a page of the web, as far as they can be seen without running its scripts. */
  app.post('/forms-found', allow('sources:write'), async (c) => {
    const { html, url } = await readInput(c, FormsInput);
    const page = html === '' ? await visited(context, url, 'HTML') : html;
    return c.json(mustRead(await context.reading.read('forms', { html: page })));
  });

  /** Makes a source out of a file that was exported, here or elsewhere. */
  app.post('/import', allow('sources:write'), async (c) => {
    const { name, document } = await readExported(c, 'source', readMadeSource, classOf);
    const id = outcome(await addSource(c.get('actor'), context, { name, imported: document }));
    return c.json(await viewOf(id), 201);
  });

  app.route('/', pausingRoutes(context, 'source', viewOf));

  app.route('/', sourceFigureRoutes(context, must));
  app.route('/', webhookRoutes(context, must));
  app.route('/', importRoutes(context));
  app.route('/', feedRoutes(context));

  app.get('/:id/samples', allow('sources:read'), async (c) => {
    const record = await must(c.req.param('id'));
    const samples = await readSamples(store.db, record.id, 20);
    return c.json(samples.length > 0 ? samples : [exampleOf(record.live ?? record.draft)]);
  });
  /** The newest samples, many of them, each with what is known of the person: to try a route on all of them at once. */
  app.get('/:id/known-samples', allow('people:read'), async (c) => {
    const { id, live, draft } = await must(c.req.param('id'));
    const samples = await readSamples(store.db, id, MOST_SAMPLES);
    const said = samples.map(({ values }) => identityClaims((live ?? draft).fields, values, id));
    const known = await readKnownPeople(store.db, said, { lock: false, answersSince: null });
    return c.json(
      samples.map((sample, index) => ({
        ...sample,
        keys: said[index]?.keys ?? [],
        known: known[index] ?? NOBODY,
      })) satisfies KnownSample[],
    );
  });

  return app;
}

const htmlOf = (postUrl: string, document: MadeDocument, version: number | null): string =>
  document.kind === 'form' ? printFormToCopy(postUrl, document, version ?? undefined) : '';

const CLASSES: { [Kind in MadeDocument['kind']]: ClassConstructor<MadeDocument> } = {
  form: FormDocumentInput,
  posts: PostsDocumentInput,
  file: FileDocumentInput,
  shop: ShopDocumentInput,
  registration: RegistrationDocumentInput,
  chat: ChatDocumentInput,
};
const classOf = ({ kind }: MadeDocument): ClassConstructor<MadeDocument> => CLASSES[kind];

/** A made-up sample for a form that has received nothing yet. */
const exampleOf = ({ fields }: MadeDocument): SampleView => ({
  id: 'example',
  receivedAt: '',
  values: exampleValues(fields),
  visit: { page: 'https://pellam-ridge.example/', device: 'phone' },
});
