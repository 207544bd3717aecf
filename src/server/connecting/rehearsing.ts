import { setTimeout as sleep } from 'node:timers/promises';
import type { ChangeThereView, LookView } from '../../contract/rehearsal.ts';
import {
  CAUSES,
  overwriting,
  ruleFor,
  standingTrouble,
  type Cause,
  type Fault,
  type HeldPerson,
  type TargetTrial,
} from '../../core/delivery/index.ts';
import { fieldsFor, type Catalogue, type Deliver } from '../../core/plan/index.ts';
import { printValue } from '../../core/values/index.ts';
import type { Connector } from '../connectors/connector.ts';
import { wantedOf } from '../connectors/wanted.ts';
import type { Context } from '../context.ts';
import type { ConnectionRecord } from '../store/connections.ts';
import { attemptDelivery, withWhatWasDone, type AttemptOutcome } from './attemptDelivery.ts';
import { connectorFor, openAccess, partsFor } from './open.ts';

/** The longest that is waited for somebody to be shown by a service that takes its time, in milliseconds. */
const LONGEST_LOOK_MS = 20_000;

type Outcome = Pick<TargetTrial, 'state' | 'said' | 'nextStep' | 'rows' | 'cleaned' | 'cleanedSaid'>;

/** Sends a test person to one destination, reads them back, and deletes them again. @param key the same for a repeat of it */
export async function tryTarget(
  context: Context,
  connection: ConnectionRecord,
  { intent, held }: Pick<Deliver, 'intent' | 'held'>,
  key: string,
): Promise<Outcome> {
  const { catalogue } = connection;
  if (!catalogue) return untried('The connection was never verified.', 'Verify the connection.');
  if (held) return untried(`It would be held: ${held.message}`, 'Mend the mapping, then try again.');
  const opened = await openAccess(context, connection);
  if (!opened.ok) return { ...failure(opened.fault), ...NOTHING_THERE };
  const connector = connectorFor(partsFor(context, opened.value));
  const wanted = wantedOf(intent);
  // An address of a test person is nobody else's; a number may be. Whoever has it must be neither changed nor deleted.
  if (connector.canLookFor(wanted) && wanted.email === '' && /^\+\d+$/.test(wanted.key)) {
    const other = await connector.find(wanted);
    if (!other.ok) return { ...failure(other.fault), ...NOTHING_THERE };
    if (other.value)
      return untried(
        `Somebody is there already by the made-up number ${wanted.key}. Nothing was sent.`,
        'Try again: it gets another number.',
      );
  }
  const carried = { id: key, intent, begunAt: null, cause: null };
  // A rehearsal is to prove, so it looks, whatever the answer shows.
  const circumstances = {
    unclear: false,
    now: context.now(),
    begin: () => Promise.resolve(true),
    trustsAnswers: false,
  };
  let ending = await attemptDelivery(connector, carried, catalogue, null, circumstances);
  const until = context.now() + Math.min(LONGEST_LOOK_MS, connector.shownAfterMs);
  // What was taken and is not shown yet is looked for again, and not sent again.
  while (ending.kind === 'failed' && ending.fault.cause === 'not seen yet' && context.now() < until) {
    await sleep(1_000);
    ending = await attemptDelivery(connector, { ...carried, cause: 'not seen yet' }, catalogue, null, circumstances);
  }
  return { ...outcomeOf(ending), ...(await cleanUp(connector, wanted, ending)) };
}

const NOTHING_THERE = { rows: [], cleaned: 'nothing there' as const, cleanedSaid: '' };

const untried = (said: string, nextStep: string): Outcome => ({ state: 'failed', said, nextStep, ...NOTHING_THERE });

function failure({ cause, said }: Fault): Pick<Outcome, 'state' | 'said' | 'nextStep'> {
  const { sentence, nextStep } = CAUSES[cause];
  return { state: 'failed', said: [sentence, said].filter((text) => text !== '').join(' '), nextStep };
}

function outcomeOf(ending: AttemptOutcome): Pick<Outcome, 'state' | 'said' | 'nextStep' | 'rows'> {
  if (ending.kind === 'failed') return { ...failure(withWhatWasDone(ending)), rows: ending.rows ?? [] };
  const { rows, provedBy } = ending;
  if (provedBy === 'look' && rows.length > 0)
    return { state: 'proved', said: 'Everything that was meant was found there.', nextStep: '', rows };
  if (provedBy === 'answer')
    return { state: 'proved', said: 'Its answer shows everything that was meant.', nextStep: '', rows };
  return {
    state: 'accepted',
    said: 'It was accepted there. Nobody can look from here.',
    nextStep: 'Look there yourself, once.',
    rows,
  };
}

/** After these, something may be there all the same. */
const MAY_HAVE_ARRIVED = new Set<Cause>(['time-out', 'answer unreadable', 'unclear', 'not seen yet']);

/** Deletes what was made, and says what could not be. */
async function cleanUp(
  connector: Connector,
  wanted: ReturnType<typeof wantedOf>,
  ending: AttemptOutcome,
): Promise<Pick<Outcome, 'cleaned' | 'cleanedSaid'>> {
  const left = (cleanedSaid: string) => ({ cleaned: 'left there' as const, cleanedSaid });
  // Whether anything is there at all is only known where somebody can look.
  if (!connector.canLookFor(wanted)) {
    if (ending.kind === 'delivered' || ending.wrote === true) return left('It cannot be taken back from here.');
    return MAY_HAVE_ARRIVED.has(ending.fault.cause)
      ? left('Whether something was left there is not known: nobody can look from here.')
      : { cleaned: 'nothing there', cleanedSaid: '' };
  }
  const found = await connector.find(wanted);
  if (!found.ok) return left(`Whether something was left there is not known: ${wordsOf(found.fault)}`);
  if (!found.value) return { cleaned: 'nothing there', cleanedSaid: '' };
  if (!connector.canRemove) return left('This kind of service deletes nothing from here: delete it there.');
  const removed = await connector.remove(wanted, found.value);
  if (!removed.ok) return left(`It could not be deleted: ${wordsOf(removed.fault)}`);
  const after = await connector.find(wanted);
  return after.ok && after.value === null
    ? { cleaned: 'removed', cleanedSaid: '' }
    : left('It was to be deleted, and is still there: delete it there.');
}

const wordsOf = ({ cause, said }: Fault): string => said || CAUSES[cause].sentence;

/** Reads how a destination holds whomever a delivery is about, and compares with what the delivery would change. Writes nothing. */
export async function lookThere(
  context: Context,
  connection: ConnectionRecord,
  { intent }: Pick<Deliver, 'intent'>,
): Promise<LookView> {
  const cannot = (problem: string): LookView => ({ problem, isThere: false, refusal: null, changes: [] });
  const { catalogue } = connection;
  if (!catalogue) return cannot('The connection was never verified.');
  if (!catalogue.can.readBack) return cannot('Nobody can be looked for there.');
  const opened = await openAccess(context, connection);
  if (!opened.ok) return cannot(wordsOf(opened.fault));
  const found = await connectorFor(partsFor(context, opened.value)).find(wantedOf(intent));
  if (!found.ok) return cannot(wordsOf(found.fault));
  const held = intent.duplicates === 'add' ? null : found.value;
  const trouble = held && standingTrouble(held);
  return {
    problem: null,
    isThere: found.value !== null,
    refusal: trouble && CAUSES[trouble].sentence,
    changes: changesThere(intent, catalogue, held),
  };
}

function changesThere(intent: Deliver['intent'], catalogue: Catalogue, held: HeldPerson | null): ChangeThereView[] {
  const destination = fieldsFor(catalogue, { kind: intent.kind, lines: [] });
  const untouched = held !== null && intent.duplicates === 'leave alone';
  const fields = Object.entries(intent.fields).map(([key, meant]): ChangeThereView => {
    const before = held?.fields[key] ?? null;
    const sent = held === null ? meant : untouched ? undefined : overwriting(ruleFor(intent, key), meant, before);
    const after = sent === undefined ? before : sent;
    return {
      what: destination.find((field) => field.key === key)?.label ?? key,
      before: inWords(before),
      after: inWords(after),
    };
  });
  if (untouched) return fields;
  const nameOf = (id: string) =>
    catalogue.lists.flatMap((list) => [list, ...list.groups]).find((one) => one.id === id)?.name ?? id;
  const isIn = (list: string, group: string) =>
    (group === '' ? held?.lists.includes(list) : held?.groups.includes(group)) ?? false;
  const set = (what: string, names: string[], is: (name: string) => boolean, after: string): ChangeThereView[] =>
    names.map((name) => ({ what: `${what} ${name}`, before: is(name) ? 'set' : 'not set', after }));
  return [
    ...fields,
    ...intent.places.map(({ list, group }): ChangeThereView => ({
      what: nameOf(group || list),
      before: isIn(list, group) ? 'in it' : 'not in it',
      after: 'in it',
    })),
    ...intent.leaves.map(({ list, group }): ChangeThereView => ({
      what: nameOf(group || list),
      before: isIn(list, group) ? 'in it' : 'not in it',
      after: 'not in it',
    })),
    ...set('Tag', intent.tags, (tag) => held?.tags.includes(tag) ?? false, 'set'),
    ...set('Tag', intent.tagsOff, (tag) => held?.tags.includes(tag) ?? false, 'not set'),
  ];
}

const inWords = (value: HeldPerson['fields'][string]): string => printValue(value ?? undefined);
