import type { ClassConstructor } from 'class-transformer';
import { Hono } from 'hono';
import type { PartIssue } from '../../../contract/checks.ts';
import {
  FormDocumentInput,
  PostsDocumentInput,
  SourceInput,
  type SampleView,
  type SourceView,
} from '../../../contract/source.ts';
import { ELAPSED_FIELD, printFormToCopy, TRAP_FIELD } from '../../../core/formats/index.ts';
import {
  PAGE_FIELD,
  PLACEMENT_FIELD,
  readSource,
  REFERRER_FIELD,
  SOURCE_FORMAT,
  VARIANT_FIELD,
  type FormDocument,
  type PostsDocument,
  type SourceDocument,
} from '../../../core/intake/index.ts';
import { identifyingFields } from '../../../core/identity/index.ts';
import { isPath } from '../../../core/json/index.ts';
import {
  plainField,
  typeOf,
  UNKNOWN_MANNER,
  widgetsOf,
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
import { changedMeanwhile, notFound, Problem, readInput, revisionIn } from '../problems.ts';
import { exported, plain, readExported } from './exchange.ts';
import { pausingRoutes } from './pausing.ts';
import { STAMP_FIELD } from '../public/formPage.ts';

/** What a new form starts as: the shortest that makes sense. */
export const NEW_FORM: FormDocument = {
  format: SOURCE_FORMAT,
  kind: 'form',
  fields: [
    { ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' },
    {
      ...plainField('consent', 'yes/no'),
      label: 'Yes, send me the newsletter. I can leave it at any time.',
      required: true,
    },
  ],
  button: 'Sign up',
  statement: '',
  thankYouUrl: '',
  thankYouMessage: 'Thank you. Please look into your mailbox and confirm your address.',
  origins: [],
  minimumSeconds: 2,
};

/** What a new address for posts starts as. */
const NEW_POSTS: PostsDocument = {
  format: SOURCE_FORMAT,
  kind: 'posts',
  fields: [{ ...plainField('email', 'email'), label: 'Email', required: true, keepAs: 'email' }],
  statement: '',
  each: '',
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
        liveIds: live?.fields.map((field) => field.id) ?? [],
        postUrl,
        html: htmlOf(postUrl, live ?? draft),
        routes: routes
          .filter((route) => route.draft.sourceIds.includes(id))
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
    const { name, kind } = await readInput(c, SourceInput);
    const id = newId();
    const draft = kind === 'form' ? NEW_FORM : NEW_POSTS;
    await addSource(store.db, { id, publicId: newPublicId(), name, draft, now: now() });
    return c.json(await viewOf(id), 201);
  });

  app.put('/:id', async (c) => {
    const { id } = await must(c.req.param('id'));
    const { name } = await readInput(c, SourceInput);
    await changeSource(store.db, id, { name });
    return c.json(await viewOf(id));
  });

  app.put('/:id/draft', async (c) => {
    const { id, draft } = await must(c.req.param('id'));
    const input = await readInput(c, classOf(draft));
    if (!(await saveSourceDraft(store.db, id, plain(input), revisionIn(c), now()))) throw changedMeanwhile();
    return c.json(await viewOf(id));
  });

  app.post('/:id/publish', async (c) => {
    const record = await must(c.req.param('id'));
    const issues = publishingIssues(record.draft);
    if (issues.length > 0) throw new Problem(422, 'not-ready', 'It cannot go live yet.', issues);
    await inTransaction(store, (db) => publishSource(db, record, now()));
    return c.json(await viewOf(record.id));
  });

  app.get('/:id/export', async (c) => {
    const { name, draft } = await must(c.req.param('id'));
    return exported(name, 'source', { name, document: draft });
  });

  /** Makes a source out of a file that was exported, here or elsewhere. It is a draft, whatever it was there. */
  app.post('/import', async (c) => {
    const { name, document: draft } = await readExported(c, 'source', readSource, classOf);
    const id = newId();
    await addSource(store.db, { id, publicId: newPublicId(), name, draft, now: now() });
    return c.json(await viewOf(id), 201);
  });

  app.route('/', pausingRoutes({ must, viewOf, setState: (id, state) => changeSource(store.db, id, { state }) }));

  app.get('/:id/samples', async (c) => {
    const record = await must(c.req.param('id'));
    const samples = await readSamples(store.db, record.id, 20);
    return c.json(samples.length > 0 ? samples : [exampleOf(record.live ?? record.draft)]);
  });

  return app;
}

const htmlOf = (postUrl: string, document: SourceDocument): string =>
  document.kind === 'form' ? printFormToCopy(postUrl, document) : '';

const classOf = ({ kind }: SourceDocument): ClassConstructor<FormDocument | PostsDocument> =>
  kind === 'form' ? FormDocumentInput : PostsDocumentInput;

/** Names of inputs that a form carries beside its own fields. */
const OWN_NAMES = new Set([
  TRAP_FIELD,
  ELAPSED_FIELD,
  STAMP_FIELD,
  PAGE_FIELD,
  REFERRER_FIELD,
  PLACEMENT_FIELD,
  VARIANT_FIELD,
]);

/** What keeps a source from going live, each with the part that is wrong. */
function publishingIssues(document: SourceDocument): PartIssue[] {
  const { fields, kind } = document;
  const issues: PartIssue[] = [];
  const add = (pointer: string, detail: string) => void issues.push({ pointer, detail });
  if (fields.length === 0) add('/fields', 'It has no fields.');
  if (identifyingFields(fields).length === 0)
    add(
      '/fields',
      'Nothing in it says who somebody is: it needs an email field, or a phone or an id that is kept as such.',
    );
  if (document.kind === 'posts' && document.each !== '' && !isPath(document.each))
    add('/each', 'This is not a JSONPath. Write it like $.orders[*].');
  fields.forEach((field, index) => {
    const at = `/fields/${index}`;
    const { key, id, type, widget, options, label } = field;
    const before = fields.slice(0, index);
    if (kind === 'form' && OWN_NAMES.has(key))
      add(`${at}/key`, `"${key}" is used by the form itself. Choose another field name.`);
    if (before.some((other) => other.key === key))
      add(`${at}/key`, `Two fields are named "${key}". Each needs its own name.`);
    if (before.some((other) => other.id === id)) add(`${at}/id`, `Two fields have the id "${id}".`);
    if (!widgetsOf(type).includes(widget)) add(`${at}/widget`, `"${label}" cannot be entered in this way.`);
    if (kind === 'form' && (type === 'choice' || type === 'several choices') && options.length === 0)
      add(`${at}/options`, `"${label}" has no answers to choose from.`);
    if (kind === 'form' && type === 'list of records' && widget === 'usual' && options.length === 0)
      add(`${at}/options`, `"${label}" has no columns to fill in.`);
    const own = field.path.replace(/^@/, '$');
    if (own !== '' && !isPath(own))
      add(`${at}/path`, `"${field.path}" is not a JSONPath. Write it like $.customer.email.`);
  });
  return issues;
}

/** A made-up sample for a form that has received nothing yet. */
function exampleOf({ fields }: SourceDocument): SampleView {
  const values: FieldValues = {};
  const words: Record<string, string> = { first_name: 'Mara', last_name: 'Quill', full_name: 'Mara Quill' };
  for (const { id, type, widget, options, preset, keepAs, label } of fields) {
    if (type === 'yes/no') values[id] = true;
    else if (type === 'several choices') values[id] = options.slice(0, 2);
    else if (type === 'choice') values[id] = options[0] ?? '';
    else if (type === 'email') values[id] = 'mara.quill@visitor.example';
    else if (type === 'text') values[id] = widget === 'hidden' ? preset : (words[keepAs] ?? label);
    else values[id] = exampleFor(type);
  }
  return { id: 'example', receivedAt: '', values, visit: { page: 'https://pellam-ridge.example/', device: 'phone' } };
}

/** The first edge case of a type, as it is held. */
function exampleFor(type: TypeName): FieldValue {
  const parsed = typeOf(type).parse(typeOf(type).edgeCases[0] ?? '', UNKNOWN_MANNER);
  return parsed.ok ? parsed.value : '';
}
