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
import type { Context } from './context.ts';
import { sha256 } from './security/tokens.ts';
import { acceptSubmission, noteRepeat } from './store/submissions.ts';

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

export type Taken = { ok: true; id: string; repeat: boolean } | { ok: false; issues: FieldIssue[] };

/** Takes a submission: reads it, screens it, stores it durably. What follows is the workers' business. */
export async function takeSubmission({ store, now, newId }: Context, arrival: Arrival): Promise<Taken> {
  const { document, entries, sourceId } = arrival;
  const read = readSubmission(document.fields, entries);
  if (!read.ok) return read;
  const receivedAt = now();
  const contentHash = sha256(
    arrival.idempotencyKey ? `key ${arrival.idempotencyKey}` : contentOf(document.fields, read.values),
  );
  const id = newId();
  const accepted = await acceptSubmission(store, {
    id,
    sourceId,
    sourceVersion: arrival.sourceVersion,
    receivedAt,
    raw: { contentType: arrival.contentType, entries, headers: arrival.headers },
    values: read.values,
    contentHash,
    personKey: personKeyOf(keysOf(document.fields, read.values)),
    suspicion: screen(document, first(entries, TRAP_FIELD), elapsedSeconds(entries, arrival.shownAt, receivedAt)),
  });
  if (accepted) return { ok: true, id, repeat: false };
  return { ok: true, id: (await noteRepeat(store.db, sourceId, contentHash, receivedAt)) ?? id, repeat: true };
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
