import type { ExchangeView } from '../../contract/activity.ts';
import type { VerifyResult } from '../../contract/connection.ts';
import {
  compareReadBack,
  nextAttempt,
  readRoom,
  transition,
  type DeliveryEvent,
  type Fault,
  type HeldPerson,
  type ReadBackRow,
} from '../../core/delivery/index.ts';
import type { Catalogue, Intent } from '../../core/plan/index.ts';
import type { Connector, PersonChange, Wanted } from '../connectors/connector.ts';
import { refuse } from '../connecting/checking.ts';
import { connectorFor, openAccess, partsFor } from '../connecting/open.ts';
import type { Context } from '../context.ts';
import { findConnection, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction } from '../store/database.ts';
import { endTry, findDeliveries, markBegun, type AttemptRecord, type DeliveryRecord } from '../store/deliveries.ts';
import { proofKey, readProofs, type Proof } from '../store/people.ts';
import type { Outcome } from './lanes.ts';

type Ending =
  | { kind: 'delivered'; rows: ReadBackRow[]; outcome: string }
  | {
      kind: 'failed';
      fault: Fault;
      rows?: ReadBackRow[];
      /** Whether something may have been added there all the same, which the next try has to look for. */
      mayBeThere?: boolean;
    };

const NOTHING_LEARNT: Outcome = { cause: null, said: '', waitMs: null };

/** A delivery that was taken, with all that a try needs. */
export interface Job {
  delivery: DeliveryRecord;
  connection: ConnectionRecord | null;
  proof: Proof | null;
  /** Whether another worker had it before, and vanished. */
  takenOver: boolean;
}

/** Reads what the tries of deliveries to one connection need, for all that were taken together. */
export async function loadJobs(
  { store }: Context,
  connectionId: string,
  taken: { id: string; takenOver: boolean }[],
): Promise<Job[]> {
  if (taken.length === 0) return [];
  const found = await findDeliveries(
    store.db,
    taken.map(({ id }) => id),
  );
  const connection = await findConnection(store.db, connectionId);
  const proofs = await readProofs(store.db, [...new Set(found.map(({ contactId }) => contactId))]);
  const byId = new Map(found.map((delivery) => [delivery.id, delivery]));
  return taken.flatMap(({ id, takenOver }) => {
    const delivery = byId.get(id);
    if (!delivery) return [];
    const proof = proofs.get(proofKey(delivery.contactId, delivery.intent.purpose)) ?? null;
    return [{ delivery, connection, proof, takenOver }];
  });
}

/** Makes one try of a delivery: finds the person there, writes, reads back, compares, and stores how it ended. */
export async function deliver(context: Context, job: Job, owner: string): Promise<Outcome> {
  const { store, now } = context;
  const { delivery } = job;
  const { id } = delivery;
  if (delivery.state !== 'sending') return NOTHING_LEARNT;
  const startedAt = now();
  const exchanges: ExchangeView[] = [];
  const begin = () => markBegun(store.db, id, owner, now());
  const ending = await tryDelivery(context, job, { exchanges, begin });
  await inTransaction(store, async (db) => {
    const { event, end, attempt } = conclude(context, delivery, ending, { startedAt, exchanges });
    const isOurs = await endTry(db, id, owner, event, end, attempt);
    if (isOurs && ending.kind === 'failed' && ending.fault.cause === 'credentials refused')
      await refuse(context, db, delivery.connectionId, refusal(ending.fault, now()));
  });
  return learnt(ending, exchanges, now());
}

/** What a try says about the service as a whole. */
function learnt(ending: Ending, exchanges: ExchangeView[], now: number): Outcome {
  if (ending.kind === 'failed') return ending.fault;
  const room = readRoom(exchanges.at(-1)?.responseHeaders ?? {}, now);
  return { ...NOTHING_LEARNT, waitMs: room?.left === 0 ? room.resetMs : null };
}

const refusal = ({ said }: Fault, now: number): VerifyResult => ({
  ok: false,
  about: 'service',
  refused: true,
  problem: `The service does not take our credentials any more${said === '' ? '.' : ` ("${said}").`}`,
  nextStep: 'Replace them, or switch them on again there. It is asked every minute; what is held goes on by itself.',
  at: new Date(now).toISOString(),
});

interface Circumstances {
  exchanges: ExchangeView[];
  /** Notes that sending begins; false when the delivery is not ours any more. */
  begin: () => Promise<boolean>;
}

async function tryDelivery(
  context: Context,
  { delivery, connection, proof, takenOver }: Job,
  { exchanges, begin }: Circumstances,
): Promise<Ending> {
  if (!connection) return failed({ cause: 'place gone', said: 'The connection was removed.', waitMs: null });
  if (connection.state === 'refused')
    return failed({ cause: 'credentials refused', said: 'Not sent: its credentials are refused.', waitMs: null });
  if (delivery.cause === 'required field missing' && delivery.causeDetail) {
    return failed({ cause: 'required field missing', said: delivery.causeDetail, waitMs: null });
  }
  const catalogue = connection.catalogue;
  if (!catalogue) return failed({ cause: 'unavailable', said: 'It was never verified.', waitMs: null });
  // After a try whose end is unknown we look first: it may have been applied.
  const unclear = takenOver || delivery.cause === 'time-out' || delivery.cause === 'answer unreadable';
  const opened = await openAccess(context, connection);
  if (!opened.ok) return failed(opened.fault);
  const attempt = (access: typeof opened.value) =>
    carryOut(connectorFor(partsFor(context, access, exchanges)), delivery, catalogue, proof, { unclear, begin });
  const ending = await attempt(opened.value);
  const { token } = opened.value;
  if (ending.kind !== 'failed' || ending.fault.cause !== 'credentials refused' || token === undefined) return ending;
  // A token may end, or be taken back, before its time: one new one is asked for.
  const renewed = await openAccess(context, connection, { refused: token });
  return renewed.ok ? attempt(renewed.value) : failed(renewed.fault);
}

async function carryOut(
  connector: Connector,
  delivery: DeliveryRecord,
  catalogue: Catalogue,
  proof: PersonChange['proof'],
  { unclear, begin }: Pick<Circumstances, 'begin'> & { unclear: boolean },
): Promise<Ending> {
  const { intent } = delivery;
  const wanted = wantedOf(intent);
  // Every delivery adds a record, either because the service does nothing else or because the route says so.
  const adds = connector.adds || (connector.findsFirst && intent.duplicates === 'add');
  const canLook = connector.canFind && (!adds || wanted.emailField !== '');
  const mayBeThere = adds && delivery.begunAt !== null;
  let before: HeldPerson | null = null;
  if (mayBeThere && !canLook) return failed({ cause: 'unclear', said: '', waitMs: null });
  const looksFirst = adds ? mayBeThere : unclear || connector.findsFirst;
  if (connector.canFind && (looksFirst || intent.duplicates === 'fill gaps' || intent.duplicates === 'leave alone')) {
    const found = await connector.find(wanted);
    if (!found.ok) return failed(found.fault, mayBeThere);
    before = found.value;
    if (before && intent.duplicates === 'leave alone')
      return delivered(compareReadBack(intent, catalogue, before, before), 'left alone: was there already');
    if (before && !adds && unclear) {
      const rows = compareReadBack(intent, catalogue, before, null);
      if (rows.every(({ same }) => same)) return delivered(rows, 'delivered by an earlier try');
    }
  }
  const ours = before && mayBeThere && isOfThisDelivery(before, delivery, catalogue) ? before : null;
  const known = adds ? ours : before;
  const change = changeFor(intent, wanted, catalogue, adds ? null : before, proof);
  let held = known;
  if (!ours) {
    if (adds && !(await begin())) return failed({ cause: 'unavailable', said: 'Taken over.', waitMs: null });
    const written = await connector.write(change, adds ? null : before, delivery.id);
    if (!written.ok) return notWritten(written.fault, { adds, canLook });
    held = written.value;
  }
  const placed = await connector.place(change, held);
  if (!placed.ok) return failed(placed.fault, adds);
  if (!canLook) return delivered([], 'accepted there; it cannot be read back');
  const after = await connector.find(wanted);
  if (!after.ok) return failed(after.fault, adds);
  const rows = compareReadBack(intent, catalogue, after.value, adds ? null : before);
  const outcome = ours ? 'delivered by an earlier try' : known ? 'updated' : 'delivered';
  if (rows.every(({ same }) => same)) return delivered(rows, outcome);
  const different = rows.filter(({ same }) => !same).map(({ what }) => what);
  return {
    kind: 'failed',
    rows,
    mayBeThere: adds,
    fault: { cause: 'differs after sending', said: `Different there: ${different.join(', ')}.`, waitMs: null },
  };
}

const failed = (fault: Fault, mayBeThere = false): Ending => ({ kind: 'failed', fault, mayBeThere });
const delivered = (rows: ReadBackRow[], outcome: string): Ending => ({ kind: 'delivered', rows, outcome });

/**
 * A write that was answered by a refusal added nothing. Of any other it is not known: the next try looks, or, where that
 * cannot be done and the service did not say that it failed, a person has to.
 */
function notWritten(fault: Fault, { adds, canLook }: { adds: boolean; canLook: boolean }): Ending {
  const isUnknown = fault.cause === 'time-out' || fault.cause === 'answer unreadable';
  if (!adds) return failed(fault);
  if (!canLook) return failed(isUnknown ? { ...fault, cause: 'unclear' } : fault, isUnknown);
  return failed(fault, isUnknown || fault.cause === 'unavailable');
}

/** Clocks may differ by this much. */
const CLOCKS_MS = 60_000;

/** Where every delivery adds a record, the newest is ours when it has what was meant and was made since we began. */
function isOfThisDelivery(held: HeldPerson, { intent, begunAt }: DeliveryRecord, catalogue: Catalogue): boolean {
  if (held.madeAt !== null && held.madeAt < (begunAt ?? 0) - CLOCKS_MS) return false;
  const fieldsOnly = { ...intent, list: '', group: '', tags: [] };
  return compareReadBack(fieldsOnly, catalogue, held, null).every(({ same }) => same);
}

/** How the person is looked for: by the address, in the field that it is mapped to. */
function wantedOf({ email, kind, fields }: Intent): Wanted {
  const [emailField = ''] =
    Object.entries(fields).find(([, value]) => typeof value === 'string' && value.toLowerCase() === email) ?? [];
  return { email, kind, emailField };
}

/** What is written: all of the intent, or under "fill gaps" only what is empty there. */
function changeFor(
  intent: Intent,
  wanted: Wanted,
  catalogue: Catalogue,
  before: HeldPerson | null,
  proof: PersonChange['proof'],
): PersonChange {
  const { list, group, tags } = intent;
  const addresses = new Set(catalogue.fields.filter(({ type }) => type === 'email').map(({ key }) => key));
  const gaps = intent.duplicates === 'fill gaps' && before !== null;
  const fields = Object.entries(intent.fields).filter(([key]) => {
    const held = before?.fields[key];
    return !gaps || held === undefined || held === null || held === '';
  });
  return {
    ...wanted,
    list,
    group,
    tags,
    fields: Object.fromEntries(fields),
    otherFields: Object.fromEntries(fields.filter(([key]) => !addresses.has(key))),
    proof,
  };
}

const OUTCOMES = { retry: 'failed, tried again later', hold: 'failed, held', drop: 'failed, dropped' };

function conclude(
  { now }: Context,
  delivery: DeliveryRecord,
  ending: Ending,
  { startedAt, exchanges }: Pick<AttemptRecord, 'startedAt' | 'exchanges'>,
): { event: DeliveryEvent; end: Parameters<typeof endTry>[4]; attempt: AttemptRecord } {
  const attempt = { startedAt, exchanges };
  if (ending.kind === 'delivered') {
    return {
      event: 'delivered',
      end: {
        state: after(delivery, 'delivered'),
        cause: null,
        causeDetail: '',
        dueAt: now(),
        readBack: ending.rows,
        endedAt: now(),
        begunAt: null,
      },
      attempt: { ...attempt, outcome: ending.outcome, cause: null, said: '' },
    };
  }
  const { fault, rows } = ending;
  const next = nextAttempt(delivery.tries, fault, now(), Math.random());
  const event: DeliveryEvent = next.kind === 'retry' ? 'failed for now' : next.kind === 'drop' ? 'given up' : 'stopped';
  return {
    event,
    end: {
      state: after(delivery, event),
      cause: fault.cause,
      causeDetail: fault.said,
      dueAt: next.kind === 'retry' ? next.at : now(),
      ...(rows ? { readBack: rows } : {}),
      endedAt: next.kind === 'retry' ? null : now(),
      begunAt: ending.mayBeThere ? (delivery.begunAt ?? startedAt) : null,
    },
    attempt: {
      ...attempt,
      outcome: OUTCOMES[next.kind],
      cause: fault.cause,
      said: fault.said,
    },
  };
}

/** The state after an event that applies to a delivery being sent. */
function after(delivery: DeliveryRecord, event: DeliveryEvent) {
  return transition(delivery.state, event) ?? delivery.state;
}
