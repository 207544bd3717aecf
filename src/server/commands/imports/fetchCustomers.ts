import { isoDay } from '../../../core/isoTime.ts';
import type { Result } from '../../../core/result.ts';
import { profileFor } from '../../connecting/profiles.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { addImport as store } from '../../store/imports.ts';
import { findSource } from '../../store/sources.ts';
import { done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { USUAL_PACE } from './addImport.ts';

/** Begins to fetch all customers that a shop has, to be looked through before anything becomes of them. @returns the import's id */
export async function fetchCustomers(
  actor: Actor,
  context: Context,
  sourceId: string,
): Promise<Result<string, Refusal>> {
  const { newId, now } = context;
  return inCommand(context, actor, async (db) => {
    const source = await findSource(db, sourceId);
    if (source?.draft.kind !== 'shop') return unknown('shop');
    const connection = await findConnection(db, source.draft.connectionId);
    if (!connection) return refused('conflict', 'not-connected', 'Its connection was removed.');
    if (!profileFor(connection).shop?.customers)
      return refused('conflict', 'not-offered', 'This kind of shop does not hand out its customers.');
    const id = newId();
    await store(db, {
      id,
      sourceId,
      fileId: newId(),
      name: `All customers of ${connection.name}`.slice(0, 120),
      size: 0,
      state: 'fetching',
      fetched: { next: null, count: 0, bytes: 0 },
      written: {},
      columns: [],
      // What each agreed to, in which words and when, is in what is fetched.
      evidence: {
        agreed: 'given',
        words: 'as the shop has it of each',
        where: connection.name,
        when: isoDay(now()),
      },
      perMinute: USUAL_PACE,
      counts: { taken: 0, refused: 0 },
      byName: nameOf(actor),
      createdAt: now(),
      dueAt: now(),
    });
    return done(id, {
      act: 'fetched customers',
      subject: { kind: 'source', id: sourceId, name: source.name },
    });
  });
}
