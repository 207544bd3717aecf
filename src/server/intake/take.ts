import {
  isPosted,
  contentOf,
  idsIn,
  inOneText,
  jsonOf,
  readPayload,
  readVisit,
  shopAsPosts,
  suspicionOf,
  type Entries,
  type FieldIssue,
  type Payload,
  type Signs,
  type SourceDocument,
  type Suspicion,
  type Visit,
} from '../../core/intake/index.ts';
import { keysOf, type ContactKey } from '../../core/identity/index.ts';
import {
  ELAPSED_FIELD,
  KEPT_FIELD,
  SHOWING_FIELD,
  TOOK_FIELD,
  TRAP_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
} from '../../core/forms/index.ts';
import { inWords, isFile, type FieldValues } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import { retryWhileUnavailable } from '../store/database.ts';
import { acceptSubmission, countRepeat, findEarlier, type NewSubmission } from '../store/submissions.ts';
import { noteEvents, visitColumns } from '../store/counting.ts';
import { addArrival } from '../store/arrivals.ts';
import { assignUploads } from '../store/uploads.ts';
import { deviceOf } from './device.ts';
import { isDisposable } from './disposable.ts';

export interface Arrival {
  sourceId: string;
  sourceVersion: number;
  document: SourceDocument;
  contentType: string;
  payload: Payload;
  /** Kept as evidence: where it came from. */
  headers: Record<string, string>;
  /** What the caller calls this request, if it does. */
  idempotencyKey: string | null;
  /** What is known of the visitor, by the ids of such facts. */
  known: FieldValues;
  /** Whether the script that sends it can do some work to show that it means it, and whether it did. */
  canWork?: boolean;
  hasWorked?: boolean;
  /** When a page of ours was shown, if it was one of ours. */
  shownAt: number | null;
  /** What it is called here, where we know it by more than what is in it; such as the row of a file. */
  name?: string;
  /** Whether somebody has it taken once more that was taken before, which makes it another one. */
  isAgain?: boolean;
}

export type Taken =
  /** The submissions in it, in their order; one for most. And what the first one says. */
  | {
      ok: true;
      ids: string[];
      answers: FieldValues;
      /** Whether the same came a moment ago, from whomever: what is known of that is not for whoever sends this. */
      cameBefore: boolean;
      /** Those that had come before, whoever named them. */
      repeated: Repeated[];
    }
  | { ok: false; why: 'invalid'; issues: FieldIssue[] }
  | { ok: false; why: 'unreadable'; problem: string }
  /** It looks like a robot's, and the script that sent it can show that it is none. */
  | { ok: false; why: 'work wanted' }
  /** The caller's name for this request was used for another one. */
  | { ok: false; why: 'key used before' };

/** Why something was not taken, as one text. */
export function whyNot(taken: Extract<Taken, { ok: false }>): string {
  if (taken.why === 'invalid') return inOneText(taken.issues);
  return taken.why === 'unreadable' ? taken.problem : 'Something else came under its name before.';
}

/** A submission that came again. */
interface Repeated {
  id: string;
  /** Whether it was another one that came under the same name. */
  differs: boolean;
}

/** What stands for the content of a submission that its sender, or we, have a name for. */
const contentOfName = (name: string): string => `named ${name}`;

/** By which such a submission is known. */
export const hashOfName = (name: string): string => sha256(contentOfName(name));

/** What the sender calls each submission in an arrival; '' for those without a name. */
function namesOf({ document, payload, name, isAgain = false }: Arrival): string[] {
  if (name !== undefined) return [name];
  if ((!isPosted(document) && document.kind !== 'shop') || document.idPath === '' || isAgain) return [];
  return idsIn(document.kind === 'shop' ? shopAsPosts(document) : document, jsonOf(payload));
}

/**
 * Takes what arrived: reads it, screens it, stores it durably. What follows is the workers' business. Of several submissions
 * in one arrival, either all are taken or none.
 */
export async function takeSubmission(context: Context, arrival: Arrival): Promise<Taken> {
  const { document, payload } = arrival;
  const { store } = context;
  const readings = readPayload(document, payload, { known: arrival.known, now: context.now() });
  if (!Array.isArray(readings)) return { ok: false, why: 'unreadable', problem: readings.problem };
  const issues = readings.flatMap((reading) => (reading.ok ? [] : reading.issues));
  if (issues.length > 0) return { ok: false, why: 'invalid', issues };
  const each = readings.flatMap((reading) => (reading.ok ? [reading.values] : []));
  const receivedAt = context.now();
  const raw = { contentType: arrival.contentType, payload: withoutSigns(payload), headers: arrival.headers };
  const isOne = each.length <= 1;
  const arrivalId = isOne ? null : context.newId();
  if (arrivalId !== null)
    await retryWhileUnavailable(() =>
      addArrival(store.db, { id: arrivalId, sourceId: arrival.sourceId, receivedAt, raw }),
    );
  const sent = senderOf(payload);
  const visit = readVisit(sent, arrival.headers, deviceOf(arrival.headers['user-agent'] ?? ''));
  const found = suspicionOf(document, signsOf(arrival, each, receivedAt));
  // Whoever let their machine work for it is not one of those who send by the thousand.
  const suspicion = found === 'too fast' && arrival.hasWorked ? null : found;
  if (suspicion === 'too fast' && arrival.canWork) return { ok: false, why: 'work wanted' };
  const ids: string[] = [];
  let cameBefore = false;
  const repeated: Repeated[] = [];
  const names = namesOf(arrival);
  for (const [part, values] of each.entries()) {
    const named = names[part] ?? '';
    const content =
      named !== ''
        ? contentOfName(named)
        : arrival.idempotencyKey
          ? `key ${arrival.idempotencyKey}`
          : contentOf(document.fields, values);
    const taken = await storeOnce(context, document, {
      id: context.newId(),
      sourceId: arrival.sourceId,
      sourceVersion: arrival.sourceVersion,
      receivedAt,
      raw: isOne ? raw : { ...raw, payload: null },
      arrivalId,
      values,
      visit,
      // Two that are alike in one arrival are two; the same arrival again is the same.
      contentHash: sha256(isOne || named !== '' ? content : `${part} ${content}`),
      isNamed: named !== '',
      personKey: personKeyOf(keysOf(document.fields, values, arrival.sourceId)),
      suspicion,
      tookSeconds: tookSeconds(sent(TOOK_FIELD)),
    });
    if (!taken.ok) return taken;
    ids.push(taken.id);
    cameBefore ||= taken.cameBefore && arrival.idempotencyKey === null;
    repeated.push(...(taken.cameBefore ? [{ id: taken.id, differs: taken.differs }] : []));
  }
  if (suspicion !== null) await noteSetAside(context, arrival, visit, ids, suspicion, receivedAt);
  return { ok: true, ids, answers: each[0] ?? {}, cameBefore, repeated };
}

/** By what a visitor is known, goes on with a form, is counted, or showed to be none of the robots: nobody needs it who looks at what came. */
const SIGNS = new Set([VISITOR_FIELD, KEPT_FIELD, SHOWING_FIELD, WORK_FIELD]);
const withoutSigns = (payload: Payload): Payload =>
  payload.kind === 'entries' ? { ...payload, entries: payload.entries.filter(([name]) => !SIGNS.has(name)) } : payload;

function signsOf({ payload, shownAt }: Arrival, each: FieldValues[], receivedAt: number): Signs {
  const sent = senderOf(payload);
  const texts = () => each.flatMap((values) => Object.values(values).map((value) => inWords(value)));
  return {
    trap: sent(TRAP_FIELD) ?? '',
    elapsedSeconds: elapsedSeconds(sent, shownAt, receivedAt),
    // Few forms look at what was typed: it is written out for those alone.
    get texts() {
      return texts();
    },
    get isThrowAway() {
      return texts().some(isDisposable);
    },
  };
}

/** Counts what was set aside, by why. */
const noteSetAside = (
  { store }: Context,
  { sourceId }: Arrival,
  visit: Visit,
  ids: string[],
  why: Suspicion,
  at: number,
): Promise<void> =>
  retryWhileUnavailable(() =>
    noteEvents(
      store.db,
      ids.map((subject) => ({ subject, what: 'aside', question: why, sourceId, at, ...visitColumns(visit) })),
    ),
  );

type Stored = { ok: true; id: string; cameBefore: boolean; differs: boolean } | { ok: false; why: 'key used before' };

/** How often an earlier one may vanish in the very moment before it is looked at. */
const MOST_TRIES = 5;

async function storeOnce({ store }: Context, { fields }: SourceDocument, submission: NewSubmission): Promise<Stored> {
  const isSame = (values: FieldValues) => contentOf(fields, values) === contentOf(fields, submission.values);
  const isSetAside = submission.suspicion !== null;
  const repeated = async (earlier: { id: string; values: FieldValues }): Promise<Stored> => {
    const differs = !isSame(earlier.values);
    if (differs && !submission.isNamed) return { ok: false, why: 'key used before' };
    await retryWhileUnavailable(() => countRepeat(store.db, earlier.id, submission.receivedAt));
    return { ok: true, id: earlier.id, cameBefore: true, differs };
  };
  // What looks like a robot's and was taken as a person's a moment ago, is that person's double click.
  const find = (aside: boolean) => retryWhileUnavailable(() => findEarlier(store.db, submission, aside));
  const real = isSetAside ? await find(false) : null;
  if (real) return repeated(real);
  // Before it is accepted: a file that belongs to nothing is cleared away.
  const files = filesIn(submission.values);
  if (files.length > 0) await retryWhileUnavailable(() => assignUploads(store.db, files, submission.id));
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    if (await acceptSubmission(store, submission))
      return { ok: true, id: submission.id, cameBefore: false, differs: false };
    const earlier = await find(isSetAside);
    // It was stored, though the database did not come to say so.
    if (earlier?.id === submission.id) return { ok: true, id: submission.id, cameBefore: false, differs: false };
    if (earlier) return repeated(earlier);
  }
  throw new Error('a repeated submission could not be found');
}

const filesIn = (values: FieldValues): string[] =>
  Object.values(values).flatMap((value) => (isFile(value) ? [value.file] : []));

/** A key by which a person's submissions are told from those of others, without the address in it. The database makes the same. */
const personKeyOf = ([key]: ContactKey[]): string => (key ? sha256(`${key.kind} ${key.value}`).slice(0, 32) : '');

/** What was sent under a name beside the fields, as forms and flat JSON do. */
export function senderOf(payload: Payload): (name: string) => string | undefined {
  if (payload.kind === 'entries') return (name) => first(payload.entries, name);
  const { json } = payload;
  if (typeof json !== 'object' || json === null) return () => undefined;
  return (name) => {
    const value = (json as Record<string, unknown>)[name];
    return typeof value === 'string' || typeof value === 'number' ? String(value) : undefined;
  };
}

const first = (entries: Entries, wanted: string) => entries.find(([name]) => name === wanted)?.[1];

const DAY_SECONDS = 24 * 60 * 60;

/** How long a form took to fill in, as its script tells; null where none does, or it says what cannot be. */
const tookSeconds = (told = ''): number | null =>
  /^\d{1,6}(\.\d+)?$/.test(told) && Number(told) <= DAY_SECONDS ? Math.round(Number(told)) : null;

/** Our own signed time when there is one; otherwise what the page's script counted; null when neither. */
export function elapsedSeconds(
  sent: (name: string) => string | undefined,
  shownAt: number | null,
  now: number,
): number | null {
  if (shownAt !== null) return (now - shownAt) / 1000;
  const counted = sent(ELAPSED_FIELD) ?? '';
  return /^\d+(\.\d+)?$/.test(counted) ? Number(counted) : null;
}
