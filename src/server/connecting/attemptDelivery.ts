import {
  CAUSES,
  compareEnd,
  compareReadBack,
  looksFirst,
  overwriting,
  ruleFor,
  standingTrouble,
  type Fault,
  type HeldPerson,
  type ProvedBy,
  type ReadBackRow,
} from '../../core/delivery/index.ts';
import type { SentValue } from '../../core/mapping/index.ts';
import type { Catalogue, Intent } from '../../core/plan/index.ts';
import type { Connector, PersonChange, Wanted } from '../connectors/connector.ts';
import { notSeen, WITHOUT_KEY, wantedOf } from '../connectors/wanted.ts';
import type { DeliveryRecord } from '../store/deliveries.ts';

interface Failed {
  kind: 'failed';
  fault: Fault;
  rows?: ReadBackRow[];
  /** Whether something may have been added there all the same, which the next try has to look for. */
  mayBeThere?: boolean;
  /** Whether the answer to the write showed something else than a look after it. */
  answerUntrue?: boolean;
  /** Whether the person was written before what failed. */
  wrote?: boolean;
}

/** How a try ended. */
export type AttemptOutcome =
  | {
      kind: 'delivered';
      rows: ReadBackRow[];
      outcome: string;
      /** How it is known: by a look there, or by the answer to the write; null where neither shows it. */
      provedBy: ProvedBy | null;
    }
  | Failed;

export interface Circumstances {
  /** Whether an earlier try may have been applied, so that we look first. */
  unclear: boolean;
  /** When the try begins, in milliseconds since 1970. */
  now: number;
  /** Notes that sending begins; false when the delivery is not ours any more. */
  begin: () => Promise<boolean>;
  /** Whether an answer is taken for proof, where the service says that it is one. */
  trustsAnswers: boolean;
}

/** How a delivery ends of somebody of whom all of it is so already. */
export const ALREADY_SO = 'already so: nothing was sent';

/** What is carried out: a delivery, or a trial of one. */
export type Carried = Pick<DeliveryRecord, 'id' | 'intent' | 'begunAt' | 'cause'>;

/** Makes one try for one person: looks where that is needed, writes, puts into places, reads back and compares. */
export async function attemptDelivery(
  connector: Connector,
  delivery: Carried,
  catalogue: Catalogue,
  proof: PersonChange['proof'],
  { unclear, now, begin, trustsAnswers }: Circumstances,
): Promise<AttemptOutcome> {
  const { intent, begunAt } = delivery;
  if (intent.ends !== null) return attemptEnd(connector, intent, catalogue);
  const wanted = wantedOf(intent);
  // Every delivery adds a record, either because the service does nothing else or because the route says so.
  const adds = connector.adds || (connector.findsFirst && intent.duplicates === 'add');
  const canLook = connector.canLookFor(wanted);
  const mayBeThere = (adds || connector.makesTwice) && begunAt !== null;
  // The service took it, and a look right afterwards saw nobody: it is not sent again.
  const wasTaken = delivery.cause === 'not seen yet' && begunAt === null;
  let before: HeldPerson | null = null;
  /** What is there of this very delivery already. */
  let taken: HeldPerson | null = null;
  if ((mayBeThere || wasTaken) && !canLook) return failed({ cause: 'unclear', said: '', waitMs: null });
  if (
    !canLook &&
    ((connector.findsFirst && !adds) || intent.duplicates === 'leave alone' || intent.duplicates === 'fill gaps')
  )
    return failed(WITHOUT_KEY);
  const looks = (adds ? mayBeThere : unclear || connector.findsFirst || connector.replaces) || looksFirst(intent);
  if (canLook && (looks || wasTaken)) {
    const found = await connector.find(wanted);
    if (!found.ok && wasTaken) return notLookedAt(found.fault, adds || connector.makesTwice);
    if (!found.ok) return failed(found.fault, mayBeThere);
    before = found.value;
    if (wasTaken) {
      const rows = compareReadBack(intent, catalogue, before, null);
      if (!before || rows.every(({ same }) => same)) return compared(rows, before, 'delivered');
      // It is there, and what takes requests of its own may still be missing.
      taken = before;
    } else if (before && intent.duplicates === 'leave alone')
      return standsAlone(before, compareReadBack(intent, catalogue, before, before));
    if (before && !taken && !adds) {
      const rows = compareReadBack(intent, catalogue, before, unclear ? null : before);
      // Only what differs is sent: where nothing does, nothing is.
      if (rows.every(({ same }) => same)) return delivered(rows, unclear ? 'delivered by an earlier try' : ALREADY_SO);
    }
  }
  const ours = taken ?? (before && mayBeThere && isOfThisDelivery(before, delivery, catalogue) ? before : null);
  const known = adds ? ours : before;
  if (mayBeThere && !known && now < begunAt + connector.shownAfterMs)
    return failed(notSeen(begunAt + connector.shownAfterMs - now), true);
  const change = changeFor(intent, wanted, adds ? null : before, proof);
  const makes = adds || (connector.makesTwice && !before);
  let held = known;
  let shown: HeldPerson | null = null;
  if (!ours) {
    if (makes && !(await begin())) return failed({ cause: 'unavailable', said: 'Taken over.', waitMs: null });
    const written = await connector.write(change, adds ? null : before, delivery.id);
    if (!written.ok) return notWritten(written.fault, { makes, canLook });
    shown = written.value;
    held = shown ?? (adds ? null : before);
  }
  const placed = await connector.place(change, held);
  if (!placed.ok) return taken ? notLookedAt(placed.fault, makes) : { ...failed(placed.fault, makes), wrote: true };
  const outcome = ours ? 'delivered by an earlier try' : known ? 'updated' : 'delivered';
  if (placed.value.moved || !connector.answersProve) shown = null;
  const answered = shown && provedByAnswer(compareReadBack(intent, catalogue, shown, adds ? null : before), outcome);
  if (answered && (trustsAnswers || !canLook)) return answered;
  if (!canLook) return UNSEEN;
  const after = await connector.find(wanted);
  if (!after.ok) return failed(after.fault, makes);
  if (!after.value && connector.shownAfterMs > 0) return failed(notSeen(connector.shownAfterMs));
  const rows = compareReadBack(intent, catalogue, after.value, adds ? null : before);
  return flagFalseAnswer(answered, compared(rows, after.value, outcome, adds));
}

/**
 * Ends what somebody gets there: unsubscribes them, or takes them out of places. Harmless when repeated. Who is not there gets nothing,
 * and who is out of it already is left alone.
 */
async function attemptEnd(connector: Connector, intent: Intent, catalogue: Catalogue): Promise<AttemptOutcome> {
  const wanted = wantedOf(intent);
  // Nobody can be looked for there: what is not known is not said to be ended.
  if (!connector.canLookFor(wanted)) return failed({ cause: 'to be ended by hand', said: '', waitMs: null });
  const before = await connector.find(wanted);
  if (!before.ok) return failed(before.fault);
  if (!before.value) return delivered([], 'not there: there was nothing to end');
  const rows = compareEnd(intent, catalogue, before.value);
  if (rows.every(({ same }) => same)) return delivered(rows, ALREADY_SO);
  const nothing = { fields: {}, otherFields: {}, places: [], tags: [], tagsOff: [], proof: null };
  const done =
    intent.ends === 'places'
      ? await connector.place({ ...wanted, ...nothing, leaves: intent.leaves }, before.value)
      : await connector.setStanding(wanted, before.value, 'unsubscribed', { proof: null, channel: intent.channel });
  if (!done.ok) return failed(done.fault);
  const after = await connector.find(wanted);
  if (!after.ok) return failed(after.fault);
  if (!after.value) return delivered([], 'ended: they are not there any more');
  const left = compareEnd(intent, catalogue, after.value);
  if (left.every(({ same }) => same)) return delivered(left, 'ended there');
  const different = left.filter(({ same }) => !same).map(({ what }) => what);
  return {
    kind: 'failed',
    rows: left,
    fault: { cause: 'differs after sending', said: `Different there: ${different.join(', ')}.`, waitMs: null },
  };
}

/** How a try ends whose answer shows all that was meant; null where it does not, and somebody has to look. */
export const provedByAnswer = (rows: ReadBackRow[], outcome: string): AttemptOutcome | null =>
  rows.length > 0 && rows.every(({ same }) => same)
    ? delivered(rows, `${outcome}, as its answer shows`, 'answer')
    : null;

/** What a look shows, beside what the answer showed: where the answer was not true, that is noted. */
export const flagFalseAnswer = (answered: AttemptOutcome | null, looked: AttemptOutcome): AttemptOutcome =>
  answered !== null && looked.kind === 'failed' && looked.fault.cause === 'differs after sending'
    ? { ...looked, answerUntrue: true }
    : looked;

/** Why a try failed, with what was done before: that is not undone by it. */
export const withWhatWasDone = ({ fault, wrote }: Failed): Fault =>
  wrote === true
    ? { ...fault, said: ['The person was written there before that.', fault.said].filter(Boolean).join(' ') }
    : fault;

/** What was taken and could not be looked at stays taken; what holds it up is mended, and it is looked for then. */
function notLookedAt(fault: Fault, mayBeThere: boolean): AttemptOutcome {
  if (CAUSES[fault.cause].action !== 'retry') return failed(fault, mayBeThere);
  return failed({ ...fault, cause: 'not seen yet' });
}

/** Who is there and left alone has arrived, unless they get no mail there. */
function standsAlone(held: HeldPerson, rows: ReadBackRow[]): AttemptOutcome {
  return standingTrouble(held) === null
    ? delivered(rows, 'left alone: was there already')
    : compared(rows, held, 'left alone: was there already');
}

/** How a try ends by what reading back showed. @param held the person as found; null when nobody was */
export function compared(
  rows: ReadBackRow[],
  held: HeldPerson | null,
  outcome: string,
  mayBeThere = false,
): AttemptOutcome {
  const different = rows.filter(({ same }) => !same).map(({ what }) => what);
  if (different.length === 0) return delivered(rows, outcome);
  const standing = held && standingTrouble(held);
  const fault: Fault = standing
    ? { cause: standing, said: '', waitMs: null }
    : { cause: 'differs after sending', said: `Different there: ${different.join(', ')}.`, waitMs: null };
  return { kind: 'failed', rows, mayBeThere, fault };
}

export const failed = (fault: Fault, mayBeThere = false): Failed => ({ kind: 'failed', fault, mayBeThere });
export const delivered = (
  rows: ReadBackRow[],
  outcome: string,
  provedBy: ProvedBy | null = 'look',
): AttemptOutcome => ({
  kind: 'delivered',
  rows,
  outcome,
  provedBy,
});

/** How a try ends at a service that took it and cannot be asked. */
export const UNSEEN: AttemptOutcome = delivered([], 'accepted there; it cannot be read back', null);

/**
 * A write that was answered by a refusal added nothing. Of any other it is not known: the next try looks, or, where that
 * cannot be done and the service did not say that it failed, a person has to.
 */
function notWritten(fault: Fault, { makes, canLook }: { makes: boolean; canLook: boolean }): AttemptOutcome {
  const isUnknown = fault.cause === 'time-out' || fault.cause === 'answer unreadable';
  if (!makes) return failed(fault);
  if (!canLook) return failed(isUnknown ? { ...fault, cause: 'unclear' } : fault, isUnknown);
  return failed(fault, isUnknown || fault.cause === 'unavailable');
}

/** Clocks may differ by this much. */
const CLOCKS_MS = 60_000;

/** Where every delivery adds a record, the newest is ours when it has what was meant and was made since we began. */
function isOfThisDelivery(held: HeldPerson, { intent, begunAt }: Carried, catalogue: Catalogue): boolean {
  if (held.madeAt !== null && held.madeAt < (begunAt ?? 0) - CLOCKS_MS) return false;
  const fieldsOnly = { ...intent, places: [], tags: [] };
  return compareReadBack(fieldsOnly, catalogue, held, null).every(({ same }) => same);
}

/** What is written: all of the intent, or of somebody who is there only what their fields' rules let through. */
export function changeFor(
  intent: Intent,
  wanted: Wanted,
  before: HeldPerson | null,
  proof: PersonChange['proof'],
): PersonChange {
  const { places, tags, leaves, tagsOff } = intent;
  const fields = Object.entries(intent.fields).flatMap(([key, meant]): [string, SentValue | null][] => {
    const sent = before === null ? meant : overwriting(ruleFor(intent, key), meant, before.fields[key]);
    return sent === undefined ? [] : [[key, sent]];
  });
  return {
    ...wanted,
    places,
    tags,
    leaves,
    tagsOff,
    fields: Object.fromEntries(fields),
    otherFields: Object.fromEntries(fields.filter(([key]) => key !== wanted.emailField)),
    proof,
  };
}
