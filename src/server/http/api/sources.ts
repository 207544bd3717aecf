import { Hono } from 'hono';
import { SourceDocumentInput, SourceInput, type SampleView, type SourceView } from '../../../contract/source.ts';
import { ELAPSED_FIELD, printFormHtml, TRAP_FIELD } from '../../../core/formats/index.ts';
import type { SourceDocument } from '../../../core/intake/index.ts';
import {
  typeOf,
  UNKNOWN_MANNER,
  type FieldValue,
  type FieldValues,
  type TypeName,
} from '../../../core/values/index.ts';
import type { Context } from '../../context.ts';
import { newPublicId } from '../../security/tokens.ts';
import { readDotLines, countBySource, DAY_MS } from '../../store/figures.ts';
import { inTransaction } from '../../store/database.ts';
import { listRoutes } from '../../store/routes.ts';
import {
  addSource,
  changeSource,
  findSource,
  listSources,
  publishSource,
  saveSourceDraft,
  type SourceRecord,
} from '../../store/sources.ts';
import { readSamples } from '../../store/submissions.ts';
import { isChanged } from '../../store/versions.ts';
import { notFound, Problem, readInput } from '../problems.ts';
import { pausingRoutes } from './pausing.ts';
import { PAGE_FIELD, STAMP_FIELD } from '../public/formPage.ts';

/** What a new form starts as: the shortest that makes sense. */
export const NEW_FORM: SourceDocument = {
  fields: [
    {
      key: 'email',
      label: 'Email',
      type: 'email',
      required: true,
      options: [],
      several: false,
      help: '',
      preset: '',
      keepAs: 'email',
    },
    {
      key: 'consent',
      label: 'Yes, send me the newsletter. I can leave it at any time.',
      type: 'tick',
      required: true,
      options: [],
      several: false,
      help: '',
      preset: '',
      keepAs: '',
    },
  ],
  button: 'Sign up',
  statement: '',
  thankYouUrl: '',
  thankYouMessage: 'Thank you. Please look into your mailbox and confirm your address.',
  origins: [],
  minimumSeconds: 2,
};

export function sourceRoutes(context: Context): Hono {
  const app = new Hono();
  const { store, now, newId, config } = context;

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
      const { id, name, state, liveVersion, draft, draftAt, publishedAt, live, publicId } = record;
      const postUrl = `${config.publicUrl}/in/${publicId}`;
      return {
        id,
        name,
        state,
        liveVersion,
        changed: isChanged(record),
        draft,
        draftAt: new Date(draftAt).toISOString(),
        publishedAt: publishedAt === null ? null : new Date(publishedAt).toISOString(),
        liveKeys: live?.fields.map(({ key }) => key) ?? [],
        postUrl,
        html: printFormHtml({ action: postUrl, ...(live ?? draft) }),
        routes: routes
          .filter((route) => route.draft.sourceId === id)
          .map((route) => ({ id: route.id, name: route.name, state: route.state })),
        today: today.get(id) ?? 0,
        hours: hours(id),
      };
    });
  }

  const viewOf = async (id: string) => (await views([await must(id)]))[0];

  app.get('/', async (c) => c.json(await views(await listSources(store.db))));
  app.get('/:id', async (c) => c.json(await viewOf(c.req.param('id'))));

  app.post('/', async (c) => {
    const { name } = await readInput(c, SourceInput);
    const id = newId();
    await addSource(store.db, { id, publicId: newPublicId(), name, draft: NEW_FORM, now: now() });
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id', async (c) => {
    const { id } = await must(c.req.param('id'));
    await changeSource(store.db, id, await readInput(c, SourceInput));
    return c.json(await viewOf(id));
  });

  app.put('/:id/draft', async (c) => {
    const { id } = await must(c.req.param('id'));
    await saveSourceDraft(store.db, id, plain(await readInput(c, SourceDocumentInput)), now());
    return c.json(await viewOf(id));
  });

  app.post('/:id/publish', async (c) => {
    const record = await must(c.req.param('id'));
    const issues = publishingIssues(record.draft);
    if (issues.length > 0) throw new Problem(422, 'not-ready', 'The form cannot go live yet.', issues);
    await inTransaction(store, (db) => publishSource(db, record, now()));
    return c.json(await viewOf(record.id));
  });

  app.route('/', pausingRoutes({ must, viewOf, setState: (id, state) => changeSource(store.db, id, { state }) }));

  app.get('/:id/samples', async (c) => {
    const record = await must(c.req.param('id'));
    const samples = await readSamples(store.db, record.id, 20);
    return c.json(samples.length > 0 ? samples : [exampleOf(record.live ?? record.draft)]);
  });

  return app;
}

const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** What keeps a form from going live, each with the part that is wrong. */
function publishingIssues({ fields }: SourceDocument): { pointer: string; detail: string }[] {
  const issues: { pointer: string; detail: string }[] = [];
  if (fields.length === 0) issues.push({ pointer: '/fields', detail: 'The form has no fields.' });
  if (!fields.some(({ type }) => type === 'email'))
    issues.push({ pointer: '/fields', detail: 'The form has no email field, so nobody could be told apart.' });
  const own = new Set([TRAP_FIELD, ELAPSED_FIELD, STAMP_FIELD, PAGE_FIELD]);
  const seen = new Set<string>();
  fields.forEach(({ key, type, options, label }, index) => {
    if (own.has(key))
      issues.push({
        pointer: `/fields/${index}/key`,
        detail: `"${key}" is used by the form itself. Choose another field name.`,
      });
    if (seen.has(key))
      issues.push({
        pointer: `/fields/${index}/key`,
        detail: `Two fields are named "${key}". Each needs its own name.`,
      });
    if (type === 'choice' && options.length === 0)
      issues.push({ pointer: `/fields/${index}/options`, detail: `"${label}" has no answers to choose from.` });
    seen.add(key);
  });
  return issues;
}

/** A made-up sample for a form that has received nothing yet. */
function exampleOf({ fields }: SourceDocument): SampleView {
  const values: FieldValues = {};
  const words: Record<string, string> = { first_name: 'Mara', last_name: 'Quill', full_name: 'Mara Quill' };
  for (const { key, type, options, several, preset, keepAs, label } of fields) {
    if (type === 'tick') values[key] = true;
    else if (type === 'choice') values[key] = several ? options.slice(0, 2) : (options[0] ?? '');
    else if (type === 'email') values[key] = 'mara.quill@visitor.example';
    else if (type === 'hidden') values[key] = preset;
    else if (type === 'text') values[key] = words[keepAs] ?? label;
    else values[key] = exampleFor(type);
  }
  return { id: 'example', receivedAt: '', values };
}

/** The first edge case of a type, as it is held. */
function exampleFor(type: TypeName): FieldValue {
  const parsed = typeOf(type).parse(typeOf(type).edgeCases[0] ?? '', UNKNOWN_MANNER);
  return parsed.ok ? parsed.value : '';
}
