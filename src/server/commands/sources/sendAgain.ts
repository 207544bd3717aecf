import { isPosted, type PostedDocument, type ShopDocument } from '../../../core/intake/index.ts';
import { good, type Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import { readProgramBody } from '../../intake/programBody.ts';
import { takeSubmission, whyNot, type Arrival } from '../../intake/take.ts';
import { findSource, type SourceRecord } from '../../store/sources.ts';
import { findNoted, listTaken, setNotedOutcome, type NotedArrival } from '../../store/webhooks.ts';
import { noteOf, refused, unknown, type Actor, type Refusal } from '../command.ts';

/**
 * Has something taken that came to an address for programs: as if it came now, by the fields as they are live. What was taken
 * before is another submission then; what was not is the one that it would have been.
 * @returns the submissions
 */
export async function sendAgain(
  actor: Actor,
  context: Context,
  { sourceId, arrivalId }: { sourceId: string; arrivalId: string },
): Promise<Result<string[], Refusal>> {
  const { store } = context;
  const source = await findSource(store.db, sourceId);
  if (!source || (!isPosted(source.draft) && source.draft.kind !== 'shop')) return unknown('source');
  if (source.live === null || source.state !== 'live')
    return refused('conflict', 'not-live', 'Publish the source, or let it go on, first: it takes nothing now.');
  const noted = await findNoted(store.db, sourceId, arrivalId);
  const arrival = noted ? await ofNoted(context, source, noted) : await ofTaken(context, source, arrivalId);
  if (!arrival.ok) return arrival;
  const taken = await takeSubmission(context, arrival.value);
  if (!taken.ok) return refused('conflict', 'not-valid', `It still cannot be taken: ${whyNot(taken)}`);
  if (taken.ids.length === 0)
    return refused(
      'conflict',
      'ignored',
      'Events of its kind are ignored. Have them taken, publish, and send it again.',
    );
  if (noted && noted.outcome !== 'repeated')
    await setNotedOutcome(store.db, noted.id, {
      outcome: 'taken',
      why: 'Sent again from here.',
      submissions: taken.ids,
    });
  const subject = { kind: 'source' as const, id: sourceId, name: source.name };
  await noteOf(context, actor, { act: 'sent again', subject })(store.db);
  return good(taken.ids);
}

const asNow = (
  source: SourceRecord,
): Pick<Arrival, 'sourceId' | 'sourceVersion' | 'document' | 'known' | 'shownAt'> => ({
  sourceId: source.id,
  sourceVersion: source.liveVersion ?? 0,
  document: source.live as PostedDocument | ShopDocument,
  known: {},
  shownAt: null,
});

async function ofNoted(
  context: Context,
  source: SourceRecord,
  { outcome, contentType, headers, body }: NotedArrival,
): Promise<Result<Arrival, Refusal>> {
  if (outcome === 'not genuine')
    return refused('conflict', 'not-genuine', 'It did not show who sent it, so its content was not kept.');
  if (body === '')
    return refused(
      'conflict',
      'not-kept',
      'Its content was not kept: it came in parts, was longer than 256 kB, or empty.',
    );
  const read = await readProgramBody(context, source, contentType, body);
  if (!read.ok) return refused('conflict', read.issue.slug, read.issue.text);
  const [issue] = read.value.issues;
  if (issue) return refused('conflict', 'not-valid', issue.message);
  const isAgain = outcome === 'repeated' || outcome === 'taken';
  const idempotencyKey = isAgain ? context.newId() : null;
  return good({ ...asNow(source), contentType, payload: read.value.payload, headers, idempotencyKey, isAgain });
}

async function ofTaken(context: Context, source: SourceRecord, id: string): Promise<Result<Arrival, Refusal>> {
  const [taken] = await listTaken(context.store.db, source.id, id);
  if (!taken?.raw.payload) return unknown('arrival');
  const { payload, contentType, headers } = taken.raw;
  return good({
    ...asNow(source),
    contentType,
    payload,
    headers,
    idempotencyKey: context.newId(),
    isAgain: true,
  });
}
