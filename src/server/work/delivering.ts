import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Profile } from '../../contract/profile/index.ts';
import { CAUSES, looksFirst, readRemainingBudget, type Cause, type Fault } from '../../core/delivery/index.ts';
import { addressOf, type Catalogue } from '../../core/plan/index.ts';
import type { Access } from '../connectors/access.ts';
import type { Connector } from '../connectors/connector.ts';
import { connectorFor, openAccess, partsFor } from '../connecting/open.ts';
import type { Context } from '../context.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import { findDeliveries, markBegun, type DeliveryRecord } from '../store/deliveries.ts';
import { consentKey, readConsent, type Consent } from '../store/people/index.ts';
import { attemptDelivery, failed, type AttemptOutcome } from '../connecting/attemptDelivery.ts';
import { attemptTogether } from './attemptTogether.ts';
import type { OutcomeWriter } from './outcomeWriter.ts';
import type { Outcome, Taking, Tried } from './lanes.ts';

/** A delivery that was taken, with all that a try needs. */
export interface Job {
  delivery: DeliveryRecord;
  connection: ConnectionRecord | null;
  /** What the person said about the purpose; null when the ledger has nothing. */
  consent: Consent | null;
  /** Whether another worker had it before, and vanished. */
  takenOver: boolean;
}

/** Reads what the tries of deliveries to one connection need, for all that were taken together and are still that taking's. */
export async function loadJobs({ store }: Context, connectionId: string, { taken, owner }: Taking): Promise<Job[]> {
  if (taken.length === 0) return [];
  const found = await findDeliveries(
    store.db,
    taken.map(({ id }) => id),
  );
  const connection = await findConnection(store.db, connectionId);
  const consent = await readConsent(store.db, [...new Set(found.map(({ contactId }) => contactId))]);
  const byId = new Map(found.map((delivery) => [delivery.id, delivery]));
  return taken.flatMap(({ id, takenOver }) => {
    const delivery = byId.get(id);
    if (delivery?.leaseOwner !== owner) return [];
    const said = consent.get(consentKey(delivery.contactId, delivery.intent)) ?? null;
    return [{ delivery, connection, consent: said, takenOver }];
  });
}

/** How many deliveries one request may carry. */
export const mostTogether = ({ batch }: Profile): number => batch?.size ?? 1;

/** Takes out of those at hand what goes into the next request together; the first one alone when it has to look first. */
export function takeBundle(jobs: Job[], most: number): Job[] {
  const [first] = jobs;
  if (!first || most === 1 || !goesTogether(first)) return jobs.splice(0, 1);
  let count = 1;
  while (count < Math.min(most, jobs.length)) {
    const job = jobs[count];
    if (!job || !goesTogether(job)) break;
    count += 1;
  }
  return jobs.splice(0, count);
}

/** Whether nothing has to be looked at before it is written. */
const goesTogether = (job: Job): boolean =>
  job.delivery.intent.duplicates === 'update' &&
  job.delivery.intent.ends === null &&
  !looksFirst(job.delivery.intent) &&
  // They are told apart by their addresses in the answer.
  addressOf(job.delivery.intent) !== '' &&
  job.delivery.begunAt === null &&
  !isUnclear(job) &&
  unsendable(job) === null;

/** After a try whose end is unknown we look first: it may have been applied. */
const isUnclear = ({ delivery, takenOver }: Job): boolean =>
  takenOver || (delivery.cause !== null && UNCLEAR.has(delivery.cause));

const UNCLEAR = new Set<Cause>(['time-out', 'answer unreadable', 'not seen yet']);

/** Makes one try of a delivery, or of several that go by one request, and has it stored how each ended. */
export async function deliver(context: Context, jobs: Job[], outcomeWriter: OutcomeWriter): Promise<Tried> {
  const ours = jobs.filter(({ delivery }) => delivery.state === 'sending');
  const startedAt = context.now();
  const tries = ours.map((job) => ({ job, exchanges: [] as ExchangeView[] }));
  const untried = unsendableAlone(ours);
  const ended = untried ? [failed(untried)] : await tryAll(context, tries);
  const stored = Promise.all(
    tries.map(({ job: { delivery }, exchanges }, index) =>
      outcomeWriter.store({ delivery, ending: ended[index] ?? UNTRIED, startedAt, exchanges }),
    ),
  ).then(() => undefined);
  const said = tries.map(({ exchanges }) => exchanges);
  return { outcome: untried ? null : serviceOutcome(ended, said, context.now()), stored };
}

const UNTRIED = failed({ cause: 'unavailable', said: 'It was not tried.', waitMs: null });

/** What tries say about the service as a whole: what troubles it, or else for how long it wants to be left alone. */
function serviceOutcome(outcomes: AttemptOutcome[], exchanges: ExchangeView[][], now: number): Outcome {
  // That one record does not show yet says nothing of the service.
  const faults = outcomes.flatMap((ending) =>
    ending.kind === 'failed' && ending.fault.cause !== 'not seen yet' ? [ending.fault] : [],
  );
  // Where some got through the service is there: only what one person's failed for is worth a note.
  const fault =
    faults.length === outcomes.length ? faults[0] : faults.find(({ cause }) => CAUSES[cause].action !== 'retry');
  if (fault) return fault;
  const room = readRemainingBudget(exchanges.at(-1)?.at(-1)?.responseHeaders ?? {}, now);
  return { cause: null, said: '', waitMs: room?.left === 0 ? room.resetMs : null };
}

interface Try {
  job: Job;
  exchanges: ExchangeView[];
}

/** @returns how each ended, in their order */
async function tryAll(context: Context, tries: Try[]): Promise<AttemptOutcome[]> {
  const connection = tries[0]?.job.connection;
  const all = (fault: Fault): AttemptOutcome[] => tries.map(() => failed(fault));
  if (!connection) return all({ cause: 'place gone', said: 'The connection was removed.', waitMs: null });
  if (connection.state === 'refused')
    return all({ cause: 'credentials refused', said: 'Not sent: its credentials are refused.', waitMs: null });
  const { catalogue } = connection;
  if (!catalogue) return all({ cause: 'unavailable', said: 'It was never verified.', waitMs: null });
  const opened = await openAccess(context, connection);
  if (!opened.ok) return all(opened.fault);
  const outcomes = await tryWith(context, opened.value, tries, catalogue);
  const { token } = opened.value;
  const refused = outcomes.find((ending) => ending.kind === 'failed' && ending.fault.cause === 'credentials refused');
  if (!refused || token === undefined) return outcomes;
  // A token may end, or be taken back, before its time: one new one is asked for.
  const renewed = await openAccess(context, connection, { refused: token });
  return renewed.ok ? tryWith(context, renewed.value, tries, catalogue) : all(renewed.fault);
}

async function tryWith(
  context: Context,
  access: Access,
  tries: Try[],
  catalogue: Catalogue,
): Promise<AttemptOutcome[]> {
  const connect = (record: ExchangeView[]): Connector => connectorFor(partsFor(context, access, record));
  if (tries.length > 1) return attemptTogether(connect, tries, catalogue, trustsAnswers);
  return Promise.all(
    tries.map(async ({ job, exchanges }) => {
      const begin = () => markBegun(context.store.db, job.delivery, context.now());
      return await attemptDelivery(connect(exchanges), job.delivery, catalogue, job.consent?.proof ?? null, {
        unclear: isUnclear(job),
        now: context.now(),
        begin,
        trustsAnswers: trustsAnswers(job),
      });
    }),
  );
}

/**
 * Whether the answer to a write is taken for proof: of all but one in sixteen, which are looked at to see whether answers are
 * true; not where an earlier try had trouble; and of none once an answer was not true.
 */
export const trustsAnswers = ({
  connection,
  delivery: { id, cause },
  takenOver,
}: Pick<Job, 'connection' | 'takenOver'> & { delivery: Pick<DeliveryRecord, 'id' | 'cause'> }): boolean =>
  connection?.answerUntrueAt === null && cause === null && !takenOver && !id.endsWith('0');

/** Why something is not sent at all. Such a job is tried alone (see `takeBundle`). */
function unsendable({ delivery, consent }: Job): Fault | null {
  const { cause, causeDetail } = delivery;
  if (delivery.intent.ends !== null)
    return consent?.state === 'withdrawn' || consent?.state === 'refused'
      ? null
      : { cause: 'agreed again', said: '', waitMs: null };
  // What was planned with consent may wait for long: it is the present consent that counts.
  if (consent?.state === 'withdrawn' || consent?.state === 'refused')
    return { cause: 'consent withdrawn', said: '', waitMs: null };
  // What the plan found missing would only be refused.
  return cause === 'required field missing' && causeDetail ? { cause, said: causeDetail, waitMs: null } : null;
}

const unsendableAlone = ([job, ...others]: Job[]): Fault | null =>
  job && others.length === 0 ? unsendable(job) : null;
