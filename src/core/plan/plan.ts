import { changesTo, type ContactKey, type Identified } from '../identity/index.ts';
import {
  addressToAsk,
  byChannel,
  isConfirmedFor,
  isConfirmedForAnything,
  planAsking,
  planConsent,
  type Given,
} from './asking.ts';
import { draftDelivery, isMore, onlyGaps, type Draft } from './drafting.ts';
import { decideFor, routeFacts, type LiveRoute, type PlanInput, type RouteFacts } from './input.ts';
import { agreedId } from './knowledge.ts';
import { planMails } from './mailing.ts';
import { asksIn, note, PLAN_FORMAT, type Plan } from './planned.ts';
import type { Target } from './route.ts';
import { propagateWithdrawal, takenBackAnew } from './propagateWithdrawal.ts';
import { isTried } from '../intake/index.ts';
import type { FieldValues } from '../values/index.ts';

/**
 * Computes everything that one submission causes. Pure: the rehearsal shows what this returns, the intake worker
 * stores it and the delivery worker carries it out, so that a preview cannot differ from what happens.
 */
export function planSubmission(input: PlanInput): Plan {
  const { fields, values, known } = input;
  const plan: Plan = { format: PLAN_FORMAT, contact: null, consent: [], actions: [], notes: [] };
  if (input.tells && isTried(input.tells, values)) {
    note(plan, 'a test', 'It was a test: nobody is made of it, and nothing goes anywhere.');
    return plan;
  }
  if (input.brokeOff === 'keep') {
    note(plan, 'broke off', 'It broke off before its end: it is kept to be looked at, and nothing follows on it.');
    return plan;
  }
  const { sure, possible } = known.identified;
  const key = sure?.by ?? input.keys[0];
  if (!key) {
    note(plan, 'nobody', 'Nothing in it says who this is: no address, no telephone number, no id.');
    return plan;
  }
  plan.contact = {
    match: known.contact ? 'matched' : 'new',
    contactId: known.contact?.id ?? null,
    key,
    keys: input.keys,
    possible,
    changes: changesTo(known.contact, fields, values, input.trust),
  };
  for (const { by, because } of possible) note(plan, 'possibly the same', DOUBTS[because](by));
  if (input.brokeOff === 'contact') {
    note(plan, 'broke off', 'It broke off before its end: who it was is known, and nothing goes anywhere.');
    return plan;
  }
  const isConfirmed = isConfirmedForAnything(known);
  if (input.routes.length === 0)
    note(plan, 'no live route', 'No live route takes this source. The contact is kept; nothing is sent.');
  for (const route of input.routes) planRoute(plan, route, { isConfirmed, input });
  if (isConfirmed) protectContact(plan.contact, plan, input.routes);
  tellOthers(plan, input);
  return plan;
}

/** What is taken back by the submission itself is told to every other place. */
function tellOthers(plan: Plan, { told, known }: PlanInput): void {
  const needs = takenBackAnew(plan, known);
  const [first] = needs;
  if (told && first) propagateWithdrawal(plan, { needs, wording: first.wording }, { ...told, known });
}

const DOUBTS: Record<Identified['possible'][number]['because'], (by: ContactKey) => string> = {
  'another address': ({ kind }) => `Somebody else is known by this ${kind}, with another address. They are told apart.`,
  'another name': ({ kind }) => `Somebody else is known by this ${kind}, with another name. They are told apart.`,
  'another key is surer': ({ kind }) => `The ${kind} in it belongs to somebody else, who is told apart.`,
};

/** What overwrites something of a confirmed person waits for their confirmation, or is not taken over. Gaps are filled. */
function protectContact(contact: NonNullable<Plan['contact']>, plan: Plan, routes: LiveRoute[]): void {
  if (routes.some(({ document }) => document.consent.changes === 'at once')) return;
  const when = asksIn(plan).length > 0 ? 'after confirmation' : 'never';
  contact.changes = contact.changes.map((change) => (change.from === null ? change : { ...change, when }));
}

function planRoute(
  plan: Plan,
  route: LiveRoute,
  { isConfirmed, input }: { isConfirmed: boolean; input: PlanInput },
): void {
  const { consent } = route.document;
  const { given, refused } = planConsent(plan, route, input);
  const asksHere = consent.confirmedBy.by === 'iwashi';
  const purposes = asksHere
    ? [...new Set(given.filter(({ ask }) => ask.channels.includes('email')).map(({ ask }) => ask.purpose))]
    : [];
  const cannotAsk = addressToAsk(input) === '';
  const isSaid = input.imported?.agreed === 'confirmed';
  const unreachable = purposes.filter(
    (purpose) => (cannotAsk || input.imported) && !isSaid && !isConfirmedFor(input.known.consent, purpose),
  );
  // What has still to be confirmed is agreed to for whatever waits for that, and for nothing else.
  const isOpen = (purpose: string) =>
    purposes.includes(purpose) && !isSaid && !isConfirmedFor(input.known.consent, purpose);
  const facts = routeFacts(route.document, input, () => agreedIn(given, isOpen));
  const confirmed = routeFacts(route.document, input, () => agreedIn(given, () => false));
  const factsFor = ({ needs }: Target): RouteFacts => {
    const own = given.find(({ ask }) => ask.id === needs?.ask);
    return needs?.channel === 'email' && own && isOpen(own.ask.purpose) ? confirmed : facts;
  };
  const drafts = draftsFor(plan, route, { input, factsFor, given, refused, unreachable });

  // Nobody is sent a mail who is in a list: what would wait for an answer only fills gaps.
  const waits = ({ delivery: { needs } }: Draft) =>
    !input.imported && needs?.channel === 'email' && purposes.includes(needs.purpose);
  const protects = consent.changes === 'ask' && isConfirmed;
  const changes =
    protects &&
    (overwrites(plan) || drafts.some((draft) => waits(draft) && isMore(draft.delivery.intent, draft.before)));
  const toAsk = input.imported ? [] : purposes.filter((purpose) => !unreachable.includes(purpose));
  const after = planAsking(plan, route, { input, purposes: toAsk, changes });
  for (const draft of drafts) {
    const { delivery } = draft;
    if (waits(draft)) plan.actions.push({ ...delivery, after: after(delivery.needs?.purpose ?? '') });
    else {
      const intent = protects ? onlyGaps(plan, route, draft) : delivery.intent;
      plan.actions.push({ ...delivery, after: { kind: 'now' }, intent });
    }
  }
  if (!input.imported) planMails(plan, route, { input, facts, confirmed });
}

/** What is agreed to with the submission itself, as facts. @param isOpen whether a purpose has still to be confirmed by email */
const agreedIn = (given: Given[], isOpen: (purpose: string) => boolean): FieldValues =>
  Object.fromEntries(
    given.flatMap(({ ask }) =>
      ask.channels
        .filter((channel) => channel !== 'email' || !isOpen(ask.purpose))
        .map((channel) => [agreedId(ask.purpose, channel), true] as const),
    ),
  );

interface Standing {
  input: PlanInput;
  /** By what is decided whether a target is for them: as it will be when that is carried out. */
  factsFor: (target: Target) => RouteFacts;
  given: Given[];
  refused: Given[];
  /** Ids of purposes that would have to be confirmed, and cannot. */
  unreachable: string[];
}

/** The deliveries to those targets of a route that are for the person, and have the consent that they need. */
function draftsFor(plan: Plan, route: LiveRoute, { input, factsFor, given, refused, unreachable }: Standing): Draft[] {
  const { targets } = route.document;
  const { confirmedBy } = route.document.consent;
  const { imported } = input;
  const isAskedThere = ({ id }: Target) =>
    confirmedBy.by === 'target' && confirmedBy.targetId === id && imported && imported.agreed !== 'confirmed';
  const lacks = targets.map(
    (target) => lackOf(target, { given, refused, unreachable, input }) ?? (isAskedThere(target) ? NOT_CONFIRMED : null),
  );
  // Where nothing goes for one reason, that is said once.
  const [first] = lacks;
  const isOne = first != null && lacks.every((lack) => lack?.text === first.text);
  if (isOne) note(plan, first.code, `${route.name}: ${first.text}, so nothing is sent.`);
  // Of each branch, the number of the target that was taken.
  const taken = new Map<string, number>();
  const drafts = targets.flatMap((target, index): Draft[] => {
    const number = index + 1;
    const before = taken.get(target.branch ?? '');
    if (before !== undefined) {
      note(
        plan,
        'other branch',
        `${route.name}: target ${number} is left out, since they go to target ${before}.`,
        target.id,
      );
      return [];
    }
    const lack = lacks[index];
    if (lack) {
      if (!isOne) note(plan, lack.code, `${route.name}: target ${number} is left out, since ${lack.text}.`, target.id);
      return [];
    }
    const catalogue = input.catalogues[target.connectionId];
    if (!catalogue) {
      note(plan, 'no connection', `${route.name}: target ${number} has no connection.`, target.id);
      return [];
    }
    const facts = factsFor(target);
    const why = reasonFor(plan, target, { route, facts, number });
    if (why === null) return [];
    if (target.branch !== null) taken.set(target.branch, number);
    const consent = given.find(({ ask }) => ask.id === target.needs?.ask) ?? null;
    return [draftDelivery(target, catalogue, { route, consent, because: why, input, facts })];
  });
  if (drafts.length === 0 && !isOne && targets.length > 0)
    note(plan, 'nothing applies', `${route.name}: none of its targets is for this person, so nothing is sent.`);
  return drafts;
}

const NOT_CONFIRMED = {
  code: 'not confirmed' as const,
  text: 'they did not confirm, and nobody in a list is sent a mail that asks for it',
};

/** What a target lacks of the consent that it needs; null when it has it, or needs none. */
function lackOf(
  { needs }: Target,
  { given, refused, unreachable, input: { imported } }: Omit<Standing, 'factsFor'>,
): { code: 'no consent' | 'no address to confirm' | 'not confirmed'; text: string } | null {
  if (needs === null) return null;
  const own = given.find(({ ask }) => ask.id === needs.ask);
  if (!own?.ask.channels.includes(needs.channel)) {
    const wording = (own ?? refused.find(({ ask }) => ask.id === needs.ask))?.wording ?? '';
    const text = imported
      ? 'the list says of nobody that they agreed to it, or they took it back'
      : own
        ? `"${wording}" says nothing of being reached ${byChannel(needs.channel)}`
        : `nobody said yes to "${wording}"`;
    return { code: 'no consent', text };
  }
  if (needs.channel === 'email' && imported && unreachable.includes(own.ask.purpose)) return NOT_CONFIRMED;
  return needs.channel === 'email' && unreachable.includes(own.ask.purpose)
    ? { code: 'no address to confirm', text: 'there is no address at which the person could confirm' }
    : null;
}

/** Why a target is for whoever the submission is of; null when it is not. What nobody can say is no yes. */
function reasonFor(
  plan: Plan,
  { id, when }: Target,
  { route, facts, number }: { route: LiveRoute; facts: RouteFacts; number: number },
): string | null {
  if (when === null) return 'Everybody goes there.';
  const { verdict, why } = decideFor(when, facts);
  if (verdict === 'holds') return `They go there, since ${why}.`;
  note(plan, 'not for them', `${route.name}: target ${number} is left out, since ${why}.`, id);
  return null;
}

const overwrites = ({ contact }: Plan): boolean => contact?.changes.some(({ from }) => from !== null) ?? false;
