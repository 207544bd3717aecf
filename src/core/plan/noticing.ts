import { stateFor, type ConsentNeed } from '../consent/index.ts';
import { keyText, type ContactKey } from '../identity/index.ts';
import type { KnownPerson } from './input.ts';
import { note, PLAN_FORMAT, type Plan } from './planned.ts';
import { planTelling, type ToldInput } from './telling.ts';

export interface NoticeInput {
  /** What the event means here; '' for nothing. */
  meaning: string;
  /** What the system is called, as in "Unsubscribed in Tern Post". */
  from: string;
  /** Of whom it tells. */
  keys: ContactKey[];
  known: KnownPerson;
  /** On what consent the person was sent there. */
  used: ConsentNeed[];
  /** Where they get something by that consent as well; null where nobody else is told. */
  told: Omit<ToldInput, 'known'> | null;
}

/**
 * What follows on what another system tells us. Nobody is made of it: whom we do not know is none of ours. Leaving there
 * takes back what the person was sent there for; where they did so before, nothing is written again.
 */
export function planNotice({ meaning, from, keys, known, used, told }: NoticeInput): Plan {
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
  for (const need of used) {
    const state = stateFor(known.consent, need);
    if (meaning === 'unsubscribed' && state !== 'withdrawn')
      plan.consent.push({ ...need, kind: 'withdrawn', wording: `Unsubscribed in ${from}.` });
    // A mail of theirs proves the address, and nothing else.
    if (meaning === 'confirmed' && need.channel === 'email' && state !== 'confirmed')
      plan.consent.push({ ...need, kind: 'confirmed', wording: `Confirmed in ${from}.` });
  }
  const needs = plan.consent.filter(({ kind }) => kind === 'withdrawn');
  if (told && needs.length > 0) planTelling(plan, { needs, wording: `Unsubscribed in ${from}.` }, { ...told, known });
  if (plan.consent.length === 0) note(plan, 'nothing follows', 'It changes nothing here.');
  return plan;
}
