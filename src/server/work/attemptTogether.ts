import type { ExchangeView } from '../../contract/deliveries.ts';
import { compareReadBack, type HeldPerson } from '../../core/delivery/index.ts';
import { addressOf, type Catalogue } from '../../core/plan/index.ts';
import type { Connector } from '../connectors/connector.ts';
import { notSeen, wantedOf } from '../connectors/wanted.ts';
import type { DeliveryRecord } from '../store/deliveries.ts';
import type { Consent } from '../store/people/index.ts';
import {
  changeFor,
  compared,
  failed,
  provedByAnswer,
  UNSEEN,
  flagFalseAnswer,
  type AttemptOutcome,
} from '../connecting/attemptDelivery.ts';

interface Try {
  job: { delivery: DeliveryRecord; consent: Consent | null };
  exchanges: ExchangeView[];
}

/**
 * Makes one try for several people by one request. Each has an outcome of their own: one that is refused holds up none of
 * the others.
 * @returns how each ended, in their order
 */
export async function attemptTogether<Tried extends Try>(
  connect: (record: ExchangeView[]) => Connector,
  tries: Tried[],
  catalogue: Catalogue,
  trusts: (job: Tried['job']) => boolean,
): Promise<AttemptOutcome[]> {
  const connector = connect([]);
  const { together } = connector;
  if (!together) throw new Error('this service takes people one by one');
  const people = tries.map(({ job, exchanges }) => {
    const { delivery, consent } = job;
    const wanted = wantedOf(delivery.intent);
    const change = changeFor(delivery.intent, wanted, null, consent?.proof ?? null);
    return { job, delivery, wanted, change, exchanges };
  });
  const written = await together.write(
    people.map(({ delivery, change }) => ({ change, idempotencyKey: delivery.id })),
    people.map(({ exchanges }) => exchanges),
  );
  const outcomes = new Map<DeliveryRecord, AttemptOutcome>();
  /** Who is still to be looked at, with what their answer showed. */
  const arrived: ((typeof people)[number] & { answered: AttemptOutcome | null })[] = [];
  for (const [index, person] of people.entries()) {
    const reply = written[index];
    if (!reply?.ok) {
      outcomes.set(person.delivery, failed(reply?.fault ?? NO_RESULT));
      continue;
    }
    const placed = await connect(person.exchanges).place(person.change, reply.value);
    if (!placed.ok) {
      outcomes.set(person.delivery, { ...failed(placed.fault), wrote: true });
      continue;
    }
    const canLook = connector.canLookFor(person.wanted);
    const shown = together.answersProve && !placed.value.moved ? reply.value : null;
    const { intent } = person.delivery;
    const answered = shown && provedByAnswer(compareReadBack(intent, catalogue, shown, null), 'delivered');
    if (answered && (trusts(person.job) || !canLook)) outcomes.set(person.delivery, answered);
    // Nobody can be asked for there: that somebody is not found would say nothing.
    else if (!canLook) outcomes.set(person.delivery, UNSEEN);
    else arrived.push({ ...person, answered });
  }
  const found = await readBack(connect, arrived);
  for (const { delivery, answered } of arrived) {
    const reply = found.get(addressOf(delivery.intent)) ?? { ok: true, value: null };
    const looked = reply.ok ? endingOf(connector, delivery, catalogue, reply.value) : failed(reply.fault);
    outcomes.set(delivery, flagFalseAnswer(answered, looked));
  }
  return tries.map(({ job }) => outcomes.get(job.delivery) ?? failed(NO_RESULT));
}

function endingOf(
  { shownAfterMs }: Connector,
  { intent }: DeliveryRecord,
  catalogue: Catalogue,
  found: HeldPerson | null,
): AttemptOutcome {
  if (!found && shownAfterMs > 0) return failed(notSeen(shownAfterMs));
  return compared(compareReadBack(intent, catalogue, found, null), found, 'delivered');
}

const NO_RESULT = { cause: 'answer unreadable' as const, said: 'It says nothing about this person.', waitMs: null };

type FoundReply = Awaited<ReturnType<Connector['find']>>;

/** Asks for all by one request where the service can be asked so, else for one after the other. */
async function readBack(
  connect: (record: ExchangeView[]) => Connector,
  people: { delivery: DeliveryRecord; wanted: ReturnType<typeof wantedOf>; exchanges: ExchangeView[] }[],
): Promise<Map<string, FoundReply>> {
  const { together } = connect([]);
  const byEmail = new Map<string, FoundReply>();
  if (people.length === 0) return byEmail;
  if (!together?.find) {
    for (const { wanted, exchanges } of people) byEmail.set(wanted.email, await connect(exchanges).find(wanted));
    return byEmail;
  }
  const reply = await together.find(
    people.map(({ wanted }) => wanted.email),
    people.map(({ exchanges }) => exchanges),
  );
  for (const { wanted } of people)
    byEmail.set(wanted.email, reply.ok ? { ok: true, value: reply.value.get(wanted.email) ?? null } : reply);
  return byEmail;
}
