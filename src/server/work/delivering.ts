import { profileOf } from '../connectors/registry.ts';
import { createConnector } from '../connectors/engine.ts';
import type { Connector, PersonChange, Reply } from '../connectors/connector.ts';
import type { ExchangeView } from '../../contract/activity.ts';
import {
  compareReadBack,
  nextAttempt,
  transition,
  type DeliveryEvent,
  type Fault,
  type HeldPerson,
  type ReadBackRow,
} from '../../core/delivery/index.ts';
import type { Catalogue, Intent } from '../../core/plan/index.ts';
import type { Context } from '../context.ts';
import { findConnection } from '../store/connections.ts';
import { inTransaction } from '../store/database.ts';
import { endTry, findDelivery, type AttemptRecord, type DeliveryRecord } from '../store/deliveries.ts';
import { readProof } from '../store/people.ts';

const NO_CATALOGUE: Catalogue = { lists: [], tags: [], fields: [] };

type Ending =
  { kind: 'delivered'; rows: ReadBackRow[]; outcome: string } | { kind: 'failed'; fault: Fault; rows?: ReadBackRow[] };

/** Makes one try of a delivery: finds the person there, writes, reads back, compares, and stores how it ended. */
export async function deliver(context: Context, id: string, owner: string, takenOver: boolean): Promise<void> {
  const { store, now } = context;
  const delivery = await findDelivery(store.db, id);
  if (delivery?.state !== 'sending') return;
  const startedAt = now();
  const exchanges: ExchangeView[] = [];
  const ending = await tryDelivery(context, delivery, exchanges, takenOver);
  await inTransaction(store, (db) => {
    const { event, end, attempt } = conclude(context, delivery, ending, { startedAt, exchanges });
    return endTry(db, id, owner, event, end, attempt);
  });
}

async function tryDelivery(
  context: Context,
  delivery: DeliveryRecord,
  exchanges: ExchangeView[],
  takenOver: boolean,
): Promise<Ending> {
  const { store, secrets, send, now } = context;
  const connection = await findConnection(store.db, delivery.connectionId);
  if (!connection) return failed({ cause: 'place gone', said: 'The connection was removed.', waitMs: null });
  if (delivery.cause === 'required field missing' && delivery.causeDetail) {
    return failed({ cause: 'required field missing', said: delivery.causeDetail, waitMs: null });
  }
  const access = {
    profile: profileOf(connection.profile),
    baseUrl: connection.baseUrl,
    key: secrets.open(connection.secret),
  };
  const connector = createConnector(send, access, now, exchanges);
  const proof = await readProof(store.db, delivery.contactId, delivery.intent.purpose);
  // After a try whose end is unknown we look first: it may have been applied.
  const unclear = takenOver || delivery.cause === 'time-out' || delivery.cause === 'answer unreadable';
  return carryOut(connector, delivery, connection.catalogue ?? NO_CATALOGUE, proof, unclear);
}

async function carryOut(
  connector: Connector,
  delivery: DeliveryRecord,
  catalogue: Catalogue,
  proof: PersonChange['proof'],
  unclear: boolean,
): Promise<Ending> {
  const { intent } = delivery;
  let before: HeldPerson | null = null;
  if (unclear || intent.duplicates !== 'update') {
    const found = await connector.findPerson(intent.email);
    if (!found.ok) return failed(found.fault);
    before = found.value;
    if (before && intent.duplicates === 'leave alone')
      return delivered(compareReadBack(intent, catalogue, before, before), 'left alone: was there already');
    if (before && unclear) {
      const rows = compareReadBack(intent, catalogue, before, null);
      if (rows.every(({ same }) => same)) return delivered(rows, 'delivered by an earlier try');
    }
  }
  const written: Reply<HeldPerson | null> = await connector.upsertPerson(
    changeFor(intent, catalogue, before, proof),
    delivery.id,
  );
  if (!written.ok) return failed(written.fault);
  const after = await connector.findPerson(intent.email);
  if (!after.ok) return failed(after.fault);
  const rows = compareReadBack(intent, catalogue, after.value, before);
  if (rows.every(({ same }) => same)) return delivered(rows, before ? 'updated' : 'delivered');
  const different = rows.filter(({ same }) => !same).map(({ what }) => what);
  return {
    kind: 'failed',
    rows,
    fault: { cause: 'differs after sending', said: `Different there: ${different.join(', ')}.`, waitMs: null },
  };
}

const failed = (fault: Fault): Ending => ({ kind: 'failed', fault });
const delivered = (rows: ReadBackRow[], outcome: string): Ending => ({ kind: 'delivered', rows, outcome });

/** What is written: all of the intent, or under "fill gaps" only what is empty there. The address is never a field. */
function changeFor(
  intent: Intent,
  catalogue: Catalogue,
  before: HeldPerson | null,
  proof: PersonChange['proof'],
): PersonChange {
  const addresses = new Set(catalogue.fields.filter(({ type }) => type === 'email').map(({ key }) => key));
  const gaps = intent.duplicates === 'fill gaps' && before !== null;
  const fields = Object.entries(intent.fields).filter(([key]) => {
    const held = before?.fields[key];
    return !addresses.has(key) && (!gaps || held === undefined || held === null || held === '');
  });
  const { email, list, group, tags } = intent;
  return { email, list, group, tags, fields: Object.fromEntries(fields), proof };
}

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
      },
      attempt: { ...attempt, outcome: ending.outcome, cause: null, said: '' },
    };
  }
  const { fault, rows } = ending;
  const next = nextAttempt(delivery.tries, fault, now(), Math.random());
  const event: DeliveryEvent = next.kind === 'retry' ? 'failed for now' : 'stopped';
  return {
    event,
    end: {
      state: after(delivery, event),
      cause: fault.cause,
      causeDetail: fault.said,
      dueAt: next.kind === 'retry' ? next.at : now(),
      ...(rows ? { readBack: rows } : {}),
      endedAt: next.kind === 'hold' ? now() : null,
    },
    attempt: {
      ...attempt,
      outcome: next.kind === 'retry' ? 'failed, tried again later' : 'failed, held',
      cause: fault.cause,
      said: fault.said,
    },
  };
}

/** The state after an event that applies to a delivery being sent. */
function after(delivery: DeliveryRecord, event: DeliveryEvent) {
  return transition(delivery.state, event) ?? delivery.state;
}
