import { isEchoOf, stateFor, type ConsentNeed } from '../consent/index.ts';
import { keyText, type ContactKey } from '../identity/index.ts';
import type { KnownPerson } from './input.ts';
import { note, PLAN_FORMAT, type Plan } from './planned.ts';
import { propagateWithdrawal, takenBackAnew, type PropagationInput } from './propagateWithdrawal.ts';

/** A consent on which somebody was sent to a system. */
export interface ConsentUsed extends ConsentNeed {
  /** When they were last sent there for it, in milliseconds since 1970. */
  sentAt: number;
  /** Whether we ended it there ourselves since: what is told of that is what we did. */
  ended: boolean;
}

export interface InboundEventInput {
  /** What the event means here; '' for nothing. */
  meaning: string;
  /** What the system is called, as in "Unsubscribed in Tern Post". */
  from: string;
  /** When that was, in milliseconds since 1970. */
  at: number;
  /** Of whom it tells. */
  keys: ContactKey[];
  known: KnownPerson;
  /** On what consent the person was sent there. */
  used: ConsentUsed[];
  /** Where they get something by that consent as well; null where nobody else is told. */
  told: Omit<PropagationInput, 'known'> | null;
}

/**
 * What follows on what another system tells us. Nobody is made of it: whom we do not know is none of ours. Leaving there
 * takes back what the person was sent there for; only what was written a moment before is not written again.
 */
export function planInboundEvent({ meaning, from, at, keys, known, used, told }: InboundEventInput): Plan {
  const plan: Plan = { format: PLAN_FORMAT, contact: null, consent: [], actions: [], notes: [] };
  const [key] = keys;
  if (!known.contact || !key) {
    note(plan, 'nobody', key ? `Nobody is known here by ${keyText(key)}.` : 'It does not say whom it is about.');
    return plan;
  }
  plan.contact = {
    match: 'matched',
    contactId: known.contact.id,
    key: known.identified.sure?.by ?? key,
    keys: [],
    possible: [],
    changes: [],
  };
  if (meaning === 'unsubscribed') {
    const left = leftBy(used);
    if (used.length > 0 && left.length === 0)
      note(plan, 'our own doing', `They were unsubscribed there from here: ${from} tells what we did ourselves.`);
    for (const { purpose, channel } of left)
      if (!isEchoOf(known.consent, { purpose, channel }, at))
        plan.consent.push({ purpose, channel, kind: 'withdrawn', wording: `Unsubscribed in ${from}.` });
  }
  // A mail of theirs proves the address, and nothing else.
  if (meaning === 'confirmed')
    for (const { purpose, channel, sentAt } of used)
      if (channel === 'email' && stateFor(known.consent, { purpose, channel }) !== 'confirmed')
        plan.consent.push({ purpose, channel, kind: 'confirmed', wording: `Confirmed in ${from}.`, answers: sentAt });
  const needs = takenBackAnew(plan, known);
  if (told && needs.length > 0)
    propagateWithdrawal(plan, { needs, wording: `Unsubscribed in ${from}.` }, { ...told, known });
  if (plan.consent.length === 0) note(plan, 'nothing follows', 'It changes nothing here.');
  return plan;
}

/**
 * What somebody took back who left there. What we ended ourselves is told to us as well, and takes nothing back. Whoever is told of by
 * their address has left what came to that address: what is sent to a telephone is another matter, unless nothing else was sent there.
 */
function leftBy(used: ConsentUsed[]): ConsentUsed[] {
  const isByEmail = used.some(({ channel }) => channel === 'email');
  return used.filter(({ channel, ended }) => !ended && (channel === 'email' || !isByEmail));
}
