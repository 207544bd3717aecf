import type { ActName, ActorKind, SubjectKind } from '../../contract/changes.ts';
import type { PartIssue } from '../../contract/checks.ts';
import { bad, good, type Result } from '../../core/result.ts';
import type { Context } from '../context.ts';
import { noteAct } from '../store/audit.ts';
import { GONE_ON } from '../planning/replanning.ts';
import { inTransaction, type Alongside, type Db } from '../store/database.ts';

/** Who has a use case done. */
export interface Actor {
  kind: ActorKind;
  /** Of the account or the token. */
  id: string;
  name: string;
}

/** Iwashi, doing something by itself. */
export const IWASHI: Actor = { kind: 'iwashi', id: 'iwashi', name: 'Iwashi' };

/** Why a use case was not done; nothing was changed then. */
export interface Refusal {
  /**
   * unknown: there is no such thing. invalid: what was asked cannot be. conflict: it cannot be now. stale: it was changed
   * meanwhile. forbidden: whoever asks may not.
   */
  why: 'unknown' | 'invalid' | 'conflict' | 'stale' | 'forbidden';
  /** Names the kind of trouble for programs. */
  slug: string;
  text: string;
  /** The parts that are wrong, by JSON Pointer. */
  issues: PartIssue[];
}

export const refused = (
  why: Refusal['why'],
  slug: string,
  text: string,
  issues: PartIssue[] = [],
): Result<never, Refusal> => bad({ why, slug, text, issues });

export const unknown = (what: string): Result<never, Refusal> =>
  refused('unknown', 'not-found', `There is no such ${what}.`);

/** Somebody else saved it in between. */
export const stale = (): Result<never, Refusal> =>
  refused('stale', 'changed-meanwhile', 'Somebody else changed this meanwhile. Nothing was saved.');

/** It was put aside. */
export const archived = (): Result<never, Refusal> =>
  refused('conflict', 'archived', 'It is archived: take it out of the archive first.');

/** It is not held any more. */
export const goneOn = (): Result<never, Refusal> => refused('conflict', 'not-held', GONE_ON);

/** What was done, to what. */
export interface Act {
  act: ActName;
  subject: { kind: SubjectKind; id: string; name: string };
  detail?: string;
}

/** What a use case ends with: a value, and what is noted of it; null for nothing. */
export type Done<Value> = Result<{ value: Value; did: Act | null }, Refusal>;

export const done = <Value>(value: Value, did: Act | null): Done<Value> => good({ value, did });

/** What is kept of who did something, beside the note of it. */
export const nameOf = ({ name }: Actor): string => name.slice(0, 120);

/** The note of something done, to be written in the transaction that does it. */
export const noteOf =
  ({ now, newId }: Context, actor: Actor, { act, subject, detail = '' }: Act): Alongside =>
  (db) =>
    noteAct(db, {
      id: newId(),
      at: now(),
      actorKind: actor.kind,
      actorId: actor.id,
      actorName: nameOf(actor),
      act,
      subjectKind: subject.kind,
      subjectId: subject.id,
      subjectName: subject.name.slice(0, 120),
      detail: detail.slice(0, 500),
    });

class Undone extends Error {
  readonly refusal: Refusal;
  constructor(refusal: Refusal) {
    super(refusal.text);
    this.refusal = refusal;
  }
}

/**
 * Does something in one transaction, which also notes who did it. Where it is refused, nothing of it is kept.
 * Whatever asks other systems is done before: a transaction does not wait for a network.
 */
export async function inCommand<Value>(
  context: Context,
  actor: Actor,
  change: (db: Db) => Promise<Done<Value>>,
): Promise<Result<Value, Refusal>> {
  try {
    return await inTransaction(context.store, async (db) => {
      const outcome = await change(db);
      if (!outcome.ok) throw new Undone(outcome.issue);
      const { value, did } = outcome.value;
      if (did) await noteOf(context, actor, did)(db);
      return good(value);
    });
  } catch (error) {
    if (error instanceof Undone) return bad(error.refusal);
    throw error;
  }
}
