import {
  contentOf,
  readSubmission,
  screen,
  type Entries,
  type FieldIssue,
  type SourceDocument,
} from '../core/intake/index.ts';
import { keysOf, type ContactKey } from '../core/identity/index.ts';
import { ELAPSED_FIELD, TRAP_FIELD } from '../core/formats/index.ts';
import type { FieldValues } from '../core/values/index.ts';
import type { Context } from './context.ts';
import { sha256 } from './security/tokens.ts';
import { acceptSubmission, countRepeat, findEarlier, type NewSubmission } from './store/submissions.ts';

export interface Arrival {
  sourceId: string;
  sourceVersion: number;
  document: SourceDocument;
  contentType: string;
  entries: Entries;
  /** Kept as evidence: where it came from. */
  headers: Record<string, string>;
  /** What the caller calls this request, if it does. */
  idempotencyKey: string | null;
  /** When a page of ours was shown, if it was one of ours. */
  shownAt: number | null;
}

export type Taken =
  | { ok: true; id: string; repeat: boolean }
  | { ok: false; why: 'invalid'; issues: FieldIssue[] }
  /** The caller's name for this request was used for another one. */
  | { ok: false; why: 'key used before' };

/** Takes a submission: reads it, screens it, stores it durably. What follows is the workers' business. */
export async function takeSubmission(context: Context, arrival: Arrival): Promise<Taken> {
  const { now, newId } = context;
  const { document, entries, sourceId } = arrival;
  const read = readSubmission(document.fields, entries);
  if (!read.ok) return { ok: false, why: 'invalid', issues: read.issues };
  const receivedAt = now();
  const contentHash = sha256(
    arrival.idempotencyKey ? `key ${arrival.idempotencyKey}` : contentOf(document.fields, read.values),
  );
  const submission: NewSubmission = {
    id: newId(),
    sourceId,
    sourceVersion: arrival.sourceVersion,
    receivedAt,
    raw: { contentType: arrival.contentType, entries, headers: arrival.headers },
    values: read.values,
    contentHash,
    personKey: personKeyOf(keysOf(document.fields, read.values)),
    suspicion: screen(document, first(entries, TRAP_FIELD), elapsedSeconds(entries, arrival.shownAt, receivedAt)),
  };
  return storeOnce(context, document, submission);
}

/** How often an earlier one may vanish in the very moment before it is looked at. */
const MOST_TRIES = 5;

async function storeOnce({ store }: Context, { fields }: SourceDocument, submission: NewSubmission): Promise<Taken> {
  const isSame = (values: FieldValues) => contentOf(fields, values) === contentOf(fields, submission.values);
  const isSetAside = submission.suspicion !== null;
  const repeated = async (earlier: { id: string; values: FieldValues }): Promise<Taken> => {
    if (!isSame(earlier.values)) return { ok: false, why: 'key used before' };
    await countRepeat(store.db, earlier.id, submission.receivedAt);
    return { ok: true, id: earlier.id, repeat: true };
  };
  // What looks like a robot's and was taken as a person's a moment ago, is that person's double click.
  const real = isSetAside ? await findEarlier(store.db, submission, false) : null;
  if (real) return repeated(real);
  for (let tries = 1; tries <= MOST_TRIES; tries += 1) {
    if (await acceptSubmission(store, submission)) return { ok: true, id: submission.id, repeat: false };
    const earlier = await findEarlier(store.db, submission, isSetAside);
    if (earlier) return repeated(earlier);
  }
  throw new Error('a repeated submission could not be found');
}

/** A key by which a person's submissions are told from those of others, without the address in it. The database makes the same. */
const personKeyOf = ([key]: ContactKey[]): string => (key ? sha256(`${key.kind} ${key.value}`).slice(0, 32) : '');

const first = (entries: Entries, wanted: string) => entries.find(([name]) => name === wanted)?.[1] ?? '';

/** Our own signed time when there is one; otherwise what the page's script counted; null when neither. */
export function elapsedSeconds(entries: Entries, shownAt: number | null, now: number): number | null {
  if (shownAt !== null) return (now - shownAt) / 1000;
  const counted = first(entries, ELAPSED_FIELD);
  return /^\d+(\.\d+)?$/.test(counted) ? Number(counted) : null;
}
