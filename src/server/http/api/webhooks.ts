import { Hono } from 'hono';
import { SecretInput, type ArrivalRow, type ArrivalView, type ShapeView } from '../../../contract/webhook.ts';
import {
  isPosted,
  asFieldPath,
  asUsable,
  eventKindsIn,
  findingsOf,
  jsonOf,
  samplesIn,
  shapeOf,
  shopAsPosts,
  type PathFinding,
  type PostedDocument,
  type RawSubmission,
} from '../../../core/intake/index.ts';
import { all, TooManySteps } from '../../../core/json/index.ts';
import { holds, inWords } from '../../../core/values/index.ts';
import { sendAgain } from '../../commands/sources/sendAgain.ts';
import { endFormer, setSecret } from '../../commands/sources/setSecret.ts';
import { isoTime } from '../../../core/isoTime.ts';
import type { Context } from '../../context.ts';
import { jsonIn } from '../../intake/programBody.ts';
import type { SourceRecord } from '../../store/sources.ts';
import {
  ARRIVALS_SHOWN,
  findNoted,
  isOfItsOwn,
  listNoted,
  listTaken,
  readLearnt,
  readSourceSecret,
  type Learnt,
  type NotedArrival,
  type TakenArrival,
} from '../../store/webhooks.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, readInput } from '../problems.ts';

/** What came to an address for programs, and its secret. @param must finds it, or answers that there is none */
export function webhookRoutes(context: Context, must: (id: string) => Promise<SourceRecord>): Hono<Session> {
  const app = new Hono<Session>();
  const { store, now } = context;

  async function mustPosts(id: string): Promise<{ source: SourceRecord; document: PostedDocument }> {
    const source = await must(id);
    const document = source.live ?? source.draft;
    // What a shop tells is looked at in the same way.
    if (document.kind === 'shop') return { source, document: shopAsPosts(document) };
    if (!isPosted(document)) throw notFound('address for programs');
    return { source, document: asUsable(document) };
  }

  app.get('/:id/arrivals', allow('people:read'), async (c) => {
    const { source, document } = await mustPosts(c.req.param('id'));
    const [taken, noted] = await Promise.all([listTaken(store.db, source.id), listNoted(store.db, source.id)]);
    const notedRows: ArrivalRow[] = [];
    for (const one of noted)
      notedRows.push(rowOfNoted(document, one, await jsonIn(context, one.contentType, one.body)));
    const rows = [...taken.map((one) => rowOfTaken(document, one)), ...notedRows].sort((one, other) =>
      one.at < other.at ? 1 : -1,
    );
    return c.json(rows.slice(0, ARRIVALS_SHOWN) satisfies ArrivalRow[]);
  });

  app.get('/:id/arrivals/:arrival', allow('people:read'), async (c) => {
    const { source, document } = await mustPosts(c.req.param('id'));
    const id = c.req.param('arrival');
    const noted = await findNoted(store.db, source.id, id);
    if (noted) {
      const { contentType, headers, body } = noted;
      const json = await jsonIn(context, contentType, body);
      return c.json({
        ...rowOfNoted(document, noted, json),
        contentType,
        headers,
        read: json === undefined ? null : { json },
        body: body === '' ? null : body,
      } satisfies ArrivalView);
    }
    const [taken] = await listTaken(store.db, source.id, id);
    if (!taken) throw notFound('arrival');
    const { raw } = taken;
    return c.json({
      ...rowOfTaken(document, taken),
      contentType: raw.contentType,
      headers: raw.headers,
      read: { json: rawJson(raw) },
      body: null,
    } satisfies ArrivalView);
  });

  app.post('/:id/arrivals/:arrival/again', allow('people:act'), async (c) => {
    const { source } = await mustPosts(c.req.param('id'));
    const submissions = outcome(
      await sendAgain(c.get('actor'), context, { sourceId: source.id, arrivalId: c.req.param('arrival') }),
    );
    return c.json({ submissions });
  });

  app.get('/:id/shape', allow('people:read'), async (c) => {
    const { source } = await mustPosts(c.req.param('id'));
    // By the draft: its paths are what somebody works on.
    const draft = asUsable(source.draft as PostedDocument);
    const [taken, noted, learnt, secret] = await Promise.all([
      listTaken(store.db, source.id),
      listNoted(store.db, source.id),
      readLearnt(store.db, source.id),
      readSourceSecret(store.db, source.id),
    ]);
    const came = await samplesOf(context, taken, noted);
    const samples = came.flatMap(({ json }) => samplesIn(draft, json));
    const found = findingsOf(shapeOf(samples));
    const fieldAt = (path: string) => draft.fields.find((field) => field.path === path)?.label ?? '';
    return c.json({
      samples: samples.length,
      findings: found.map((finding) => ({
        ...finding,
        path: asFieldPath(draft, finding.path),
        example: exampleAt(samples, finding),
      })),
      kinds: kindsSeen(draft, learnt, came),
      gone: learnt.gone.map(({ path, since, ...rest }) => ({
        ...rest,
        path: asFieldPath(draft, path),
        since: new Date(since).toISOString(),
        field: fieldAt(asFieldPath(draft, path)),
      })),
      secretSince: isoTime(secret?.setAt ?? null),
      formerUntil: secret?.former && secret.formerUntil > now() ? isoTime(secret.formerUntil) : null,
    } satisfies ShapeView);
  });

  app.put('/:id/secret', allow('sources:write'), async (c) => {
    const { source } = await mustPosts(c.req.param('id'));
    const { secret, keepsFormer } = await readInput(c, SecretInput);
    return c.json(outcome(await setSecret(c.get('actor'), context, { id: source.id, secret, keepsFormer })));
  });

  app.delete('/:id/secret/former', allow('sources:write'), async (c) => {
    const { source } = await mustPosts(c.req.param('id'));
    outcome(await endFormer(c.get('actor'), context, source.id));
    return c.body(null, 204);
  });

  return app;
}

/** What came that can be read, with when it did. */
async function samplesOf(
  context: Context,
  taken: TakenArrival[],
  noted: NotedArrival[],
): Promise<{ json: unknown; at: number }[]> {
  const own: { json: unknown; at: number }[] = [];
  for (const { contentType, body, receivedAt } of noted.filter(isOfItsOwn))
    own.push({ json: await jsonIn(context, contentType, body), at: receivedAt });
  return [...taken.map(({ raw, receivedAt }) => ({ json: rawJson(raw), at: receivedAt })), ...own].filter(
    ({ json }) => json !== undefined && json !== null,
  );
}

/** The kinds of events that came: as they were counted, or, where the draft tells them apart in another way, among the newest. */
function kindsSeen(
  draft: PostedDocument,
  { kinds }: Learnt,
  came: { json: unknown; at: number }[],
): ShapeView['kinds'] {
  const newest = new Map<string, { came: number; lastAt: number }>();
  for (const { json, at } of came)
    for (const kind of everyKindIn(draft, json)) {
      const before = newest.get(kind) ?? { came: 0, lastAt: 0 };
      newest.set(kind, { came: before.came + 1, lastAt: Math.max(before.lastAt, at) });
    }
  const all = new Map([...newest, ...Object.entries(kinds).filter(([kind]) => newest.size === 0 || newest.has(kind))]);
  return [...all].flatMap(([kind, { came: count, lastAt }]) =>
    kind === '' ? [] : [{ kind, came: count, lastAt: new Date(lastAt).toISOString() }],
  );
}

const rawJson = ({ payload }: RawSubmission): unknown => payload && jsonOf(payload);

const rowOfTaken = (document: PostedDocument, { id, receivedAt, submissions, raw }: TakenArrival): ArrivalRow => ({
  id,
  at: new Date(receivedAt).toISOString(),
  outcome: 'taken',
  why: '',
  kinds: kindsIn(document, rawJson(raw)),
  submissions,
});

const rowOfNoted = (document: PostedDocument, noted: NotedArrival, json: unknown): ArrivalRow => ({
  id: noted.id,
  at: new Date(noted.receivedAt).toISOString(),
  outcome: noted.outcome,
  why: noted.why,
  kinds: kindsIn(document, json),
  submissions: noted.submissions,
});

const kindsIn = (document: PostedDocument, json: unknown): string[] =>
  [...new Set(everyKindIn(document, json))].filter((kind) => kind !== '');

/** The kind of each event in a payload; none where its paths cannot be followed. */
function everyKindIn(document: PostedDocument, json: unknown): string[] {
  if (typeof json !== 'object' || json === null) return [];
  try {
    return eventKindsIn(document, json);
  } catch (error) {
    if (error instanceof TooManySteps) return [];
    throw error;
  }
}

/** The newest thing that stands at a place. */
function exampleAt(samples: unknown[], { path, type, secret }: PathFinding): string {
  if (secret) return '';
  for (const sample of samples) {
    const [found] = all(sample, path);
    if (found !== undefined && found !== null && found !== '')
      return (holds(type, found) ? inWords(found) : textOf(found)).slice(0, 80);
  }
  return '';
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));
