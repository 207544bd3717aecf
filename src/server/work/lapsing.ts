import { endOf, jsonOf, withValueAt, type RegistrationDocument } from '../../core/intake/index.ts';
import { located } from '../../core/json/index.ts';
import type { Context } from '../context.ts';
import { takeSubmission } from '../intake/take.ts';
import { endMembership, lapsed, noteMembership, restMembership } from '../store/memberships.ts';
import type { Db } from '../store/database.ts';
import { findSource } from '../store/sources.ts';
import type { SubmissionRecord } from '../store/submissions.ts';
import { listTaken } from '../store/webhooks.ts';
import { runBeats } from './beats.ts';

const BEAT_MS = 2_000;
const TOGETHER = 50;
/** After so long one that could not be ended is tried again. */
const REST_MS = 60 * 60_000;

/** Notes when the membership that a submission tells of ends by itself. */
export async function noteEnd(
  db: Db,
  {
    document,
    submission,
    contactId,
  }: { document: RegistrationDocument; submission: SubmissionRecord; contactId: string },
): Promise<void> {
  const { sourceId, id: submissionId, values, receivedAt } = submission;
  const value = values[document.membershipField];
  if (typeof value !== 'object' || !('ends' in value)) return;
  const end = endOf(value);
  // What has ended when it is told of needs no clock.
  const lapsesAt = end === null || end <= receivedAt ? null : end;
  await noteMembership(db, { sourceId, contactId, submissionId, lapsesAt });
}

/** Tells of each membership that has ended by itself, as if its site had: once, whichever worker does. */
export const runLapsing = (context: Context): { stop(): Promise<void> } =>
  runBeats(context, BEAT_MS, 'noting memberships that ended', async () => {
    const { store, now, log } = context;
    const due = await lapsed(store.db, now(), TOGETHER);
    let ended = 0;
    for (const record of due)
      try {
        await tellOf(context, record.sourceId, record.submissionId);
        await endMembership(store.db, record);
        ended += 1;
      } catch (error) {
        // The others do not wait for one that cannot be ended; it is tried again after a while.
        log.error({ err: error, submission: record.submissionId }, 'a membership could not be ended');
        await restMembership(store.db, record, now() + REST_MS);
      }
    return ended === TOGETHER;
  });

async function tellOf(context: Context, sourceId: string, submissionId: string): Promise<void> {
  const { store, log } = context;
  const source = await findSource(store.db, sourceId);
  const [told] = await listTaken(store.db, sourceId, submissionId);
  if (source?.live?.kind !== 'registration' || !told?.raw.payload) return;
  const { live } = source;
  const json = jsonOf(told.raw.payload);
  const [kind] = located(json, live.events.path);
  const taken = await takeSubmission(context, {
    sourceId,
    sourceVersion: source.liveVersion ?? 0,
    document: live,
    contentType: 'application/json',
    payload: {
      kind: 'json',
      json: kind ? withValueAt(json, kind.location, live.lapsedKind) : json,
      files: [],
    },
    headers: { 'by the clock': submissionId },
    idempotencyKey: null,
    name: `lapsed ${submissionId}`,
    known: {},
    shownAt: null,
  });
  if (!taken.ok) log.warn({ submission: submissionId }, 'a membership that ended could not be told of');
}
