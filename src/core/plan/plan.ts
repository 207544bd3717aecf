import { consentState, type ConsentEvent } from '../consent/index.ts';
import {
  addressIn,
  changesTo,
  identifyingFields,
  keyKindOf,
  keyText,
  type ContactKey,
  type Identified,
  type KnownContact,
} from '../identity/index.ts';
import { applyMapping, type DestinationField, type LineResult, type SentValue } from '../mapping/index.ts';
import { decide } from '../conditions/index.ts';
import { factFields, factsOf, type Visit } from '../intake/index.ts';
import { type FieldValues, type SourceField, printValue } from '../values/index.ts';
import { fieldsFor, type Catalogue } from './catalogue.ts';
import { INTENT_FORMAT, type Intent } from './intent.ts';
import { PLAN_FORMAT, type NoteCode, type Plan, type PlannedConsent, type PlannedDelivery } from './planned.ts';
import type { ConsentPolicy, Place, RouteDocument, Target } from './route.ts';

/** A repeated sign-up within this time does not send a second confirmation. */
const CONFIRMATION_REST_MS = 10 * 60_000;

export interface LiveRoute {
  id: string;
  name: string;
  version: number;
  document: RouteDocument;
}

/** What is known of a person when a submission of theirs is planned. */
export interface KnownPerson {
  contact: KnownContact | null;
  /** How they were recognised. */
  identified: Identified;
  consent: (ConsentEvent & { purpose: string })[];
  openConfirmations: { id: string; purpose: string; lastSentAt: number }[];
  /** What was last meant for them by each target, of all that was not dropped. */
  sent: { routeId: string; targetId: string; intent: Intent }[];
}

export interface PlanInput {
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  /** By the ids of the fields. */
  values: FieldValues;
  /** The keys in it, the surest first. */
  keys: ContactKey[];
  /** How the submission came. */
  visit: Visit;
  routes: LiveRoute[];
  known: KnownPerson;
  /** Catalogue by connection id. */
  catalogues: Record<string, Catalogue>;
  now: number;
}

/**
 * Computes everything that one submission causes. Pure: the rehearsal shows what this returns, the intake worker
 * stores it and the delivery worker carries it out, so that a preview cannot differ from what happens.
 */
export function planSubmission(input: PlanInput): Plan {
  const { fields, values, known } = input;
  const plan: Plan = { format: PLAN_FORMAT, contact: null, consent: [], confirmations: [], deliveries: [], notes: [] };
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
    changes: changesTo(known.contact, fields, values),
  };
  for (const { by, because } of possible) note(plan, 'possibly the same', DOUBTS[because](by));
  const isConfirmed = confirmedForAnything(known);
  if (input.routes.length === 0)
    note(plan, 'no live route', 'No live route takes this source. The contact is kept; nothing is sent.');
  for (const route of input.routes) planRoute(plan, route, { isConfirmed, input });
  if (isConfirmed) protectContact(plan.contact, plan, input.routes);
  return plan;
}

const note = (plan: Plan, code: NoteCode, text: string): void => void plan.notes.push({ code, text });

const DOUBTS: Record<Identified['possible'][number]['because'], (by: ContactKey) => string> = {
  'another address': ({ kind }) => `Somebody else is known by this ${kind}, with another address. They are told apart.`,
  'another name': ({ kind }) => `Somebody else is known by this ${kind}, with another name. They are told apart.`,
  'another key is surer': ({ kind }) => `The ${kind} in it belongs to somebody else, who is told apart.`,
};

/** Whom deliveries are about: every key in the submission, and the one by which the person was recognised. */
function subjectOf({ keys, known }: PlanInput): ContactKey[] {
  // A key that belongs to somebody else must not lead to their record.
  const others = new Set(known.identified.possible.map(({ by }) => keyText(by)));
  return keys.filter((key) => !others.has(keyText(key)));
}

/** Whether the person proved once that the address is theirs. */
function confirmedForAnything({ consent }: KnownPerson): boolean {
  const purposes = new Set(consent.map(({ purpose }) => purpose));
  return [...purposes].some((purpose) => isConfirmedFor(consent, purpose));
}

const isConfirmedFor = (consent: KnownPerson['consent'], purpose: string): boolean =>
  consentState(consent.filter((event) => event.purpose === purpose)) === 'confirmed';

/** What overwrites something of a confirmed person waits for their confirmation, or is not taken over. Gaps are filled. */
function protectContact(contact: NonNullable<Plan['contact']>, plan: Plan, routes: LiveRoute[]): void {
  if (routes.some(({ document }) => document.consent.changes === 'at once')) return;
  const when = plan.confirmations.length > 0 ? 'after confirmation' : 'never';
  contact.changes = contact.changes.map((change) => (change.from === null ? change : { ...change, when }));
}

function planRoute(
  plan: Plan,
  route: LiveRoute,
  { isConfirmed, input }: { isConfirmed: boolean; input: PlanInput },
): void {
  const { consent, targets } = route.document;
  const wording = consentWording(consent, input);
  if (consent.tickField !== '' && input.values[consent.tickField] !== true) {
    note(plan, 'no consent', `${route.name}: nobody said yes to "${wording}", so nothing is sent.`);
    addConsent(plan, { kind: 'not given', purpose: consent.purpose, wording });
    return;
  }
  addConsent(plan, { kind: 'given', purpose: consent.purpose, wording });
  const address = addressIn(input.keys) || (input.known.contact?.address ?? '');
  if (consent.mode === 'double' && address === '' && !isConfirmedFor(input.known.consent, consent.purpose)) {
    const text = `${route.name}: there is no address at which the person could confirm, so nothing is sent.`;
    note(plan, 'no address to confirm', text);
    return;
  }
  const drafts = targets.flatMap((target, index): Draft[] => {
    const catalogue = input.catalogues[target.connectionId];
    if (!catalogue) note(plan, 'no connection', `${route.name}: target ${index + 1} has no connection.`);
    if (!catalogue || !isFor(plan, target, { route, input, number: index + 1 })) return [];
    return [draftDelivery(target, catalogue, { route, wording, input })];
  });
  const protects = consent.changes === 'ask' && isConfirmed;
  const asks = protects && (overwrites(plan) || drafts.some(({ before, delivery }) => isMore(delivery.intent, before)));
  const when = consent.mode === 'double' ? planConfirmation(plan, route, address, { input, asks }) : 'now';
  for (const draft of drafts) {
    const { delivery } = draft;
    const intent = protects && consent.mode === 'single' ? onlyGaps(plan, route, draft) : delivery.intent;
    plan.deliveries.push({ ...delivery, when, intent });
  }
}

/** Whether a target is for whoever the submission is of; what nobody can say is no yes. */
function isFor(
  plan: Plan,
  { when }: Target,
  { route, input, number }: { route: LiveRoute; input: PlanInput; number: number },
): boolean {
  if (when === null) return true;
  const { verdict, why } = decide(when, factsOf(input.values, input.visit), factFields(input.fields));
  if (verdict !== 'holds') note(plan, 'not for them', `${route.name}: target ${number} is left out, since ${why}.`);
  return verdict === 'holds';
}

/** A delivery before it is decided when it goes, and what was last meant for the person by the same target. */
interface Draft {
  target: Target;
  delivery: PlannedDelivery;
  catalogue: Catalogue;
  before: Intent | null;
}

function draftDelivery(
  target: Target,
  catalogue: Catalogue,
  { route, wording, input }: { route: LiveRoute; wording: string; input: PlanInput },
): Draft {
  const destination = fieldsFor(catalogue, target);
  const facts = factsOf(input.values, input.visit);
  const results = applyMapping(destination, target.lines, facts);
  const sent = input.known.sent.find((one) => one.routeId === route.id && one.targetId === target.id);
  return {
    target,
    catalogue,
    before: sent?.intent ?? null,
    delivery: {
      routeId: route.id,
      routeVersion: route.version,
      targetId: target.id,
      connectionId: target.connectionId,
      when: 'now',
      intent: {
        format: INTENT_FORMAT,
        subject: subjectOf(input).map((key) => ({ key, field: fieldOfKey(key, target, destination, input.fields) })),
        kind: target.kind,
        fields: sentFields(results),
        list: target.list,
        group: target.group,
        tags: catalogue.can.tags ? tagsFor(target, facts) : [],
        leaves: leavesFor(target, catalogue),
        tagsOff: catalogue.can.untags ? target.tagsOff : [],
        duplicates: target.duplicates,
        purpose: route.document.consent.purpose,
        wording,
      },
      held: missingRequired(results),
      leftOut: leftOut(results),
    },
  };
}

/** The destination field that holds what identifies the person: the one of that type that is filled from it. */
function fieldOfKey(
  key: ContactKey,
  { lines }: Target,
  destination: DestinationField[],
  fields: SourceField[],
): string {
  const own = identifyingFields(fields).filter((field) => keyKindOf(field) === key.kind);
  const identifying = new Set(own.map((field) => field.id));
  const line = lines.find(
    ({ to, from }) =>
      from.kind === 'field' &&
      identifying.has(from.field) &&
      destination.some((field) => field.key === to && field.type === key.kind),
  );
  // A column of a sheet has no type: it holds the address all the same.
  const untyped = lines.find(({ from }) => from.kind === 'field' && identifying.has(from.field));
  return line?.to ?? untyped?.to ?? '';
}

const overwrites = ({ contact }: Plan): boolean => contact?.changes.some(({ from }) => from !== null) ?? false;

/** Whether two parts of an intent are the same: both come out of one computation, so their members stand in one order. */
const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Whether something is meant that was not meant before, and is no mere filling of a gap. What adds a record changes none. */
function isMore(intent: Intent, before: Intent | null): boolean {
  if (before === null || intent.duplicates === 'add') return false;
  return (
    Object.entries(intent.fields).some(([key, value]) => key in before.fields && !isSame(before.fields[key], value)) ||
    intent.tags.some((tag) => !before.tags.includes(tag)) ||
    intent.tagsOff.some((tag) => !before.tagsOff.includes(tag)) ||
    intent.list !== before.list ||
    intent.group !== before.group ||
    !isSame(intent.leaves, before.leaves)
  );
}

/** What a form that nobody confirms may do to a confirmed person: fill gaps, and put them where everybody goes. */
function onlyGaps(
  plan: Plan,
  { name }: LiveRoute,
  { target, delivery: { intent }, catalogue: { can }, before }: Draft,
): Intent {
  if (intent.duplicates === 'add' || intent.duplicates === 'leave alone') return intent;
  const known = before?.fields ?? {};
  const fields = Object.entries(intent.fields).filter(
    ([key, value]) => known[key] === undefined || isSame(known[key], value),
  );
  const careful: Intent = {
    ...intent,
    fields: can.duplicates.includes('fill gaps') ? intent.fields : Object.fromEntries(fields),
    duplicates: can.duplicates.includes('fill gaps') ? 'fill gaps' : intent.duplicates,
    tags: intent.tags.filter((tag) => target.tags.includes(tag) || before?.tags.includes(tag)),
    leaves: [],
    tagsOff: [],
  };
  if (!isSame(careful, intent))
    note(
      plan,
      'only gaps',
      `${name}: this person confirmed their address before, and nobody confirms this form: it fills gaps, and changes nothing else.`,
    );
  return careful;
}

/** Plans the confirmation that a purpose still needs, once per purpose, and says when its deliveries may go. */
function planConfirmation(
  plan: Plan,
  route: LiveRoute,
  address: string,
  { input, asks }: { input: PlanInput; asks: boolean },
): PlannedDelivery['when'] {
  const { purpose, mail, expiresHours } = route.document.consent;
  const isConfirmed = isConfirmedFor(input.known.consent, purpose);
  if (isConfirmed && asks)
    note(
      plan,
      'change asked for',
      `${route.name}: this changes something of a confirmed person, who is asked to confirm it.`,
    );
  if (isConfirmed && !asks) {
    note(plan, 'confirmed before', `${route.name}: already confirmed for ${purpose}, so no confirmation is sent.`);
    return 'now';
  }
  if (plan.confirmations.some((planned) => planned.purpose === purpose)) return 'after confirmation';
  const open = input.known.openConfirmations.find(
    (candidate) => candidate.purpose === purpose && input.now - candidate.lastSentAt < CONFIRMATION_REST_MS,
  );
  if (open)
    note(plan, 'asked minutes ago', `${route.name}: a confirmation went out minutes ago; no second one is sent.`);
  else addConsent(plan, { kind: 'asked', purpose, wording: mail.subject });
  plan.confirmations.push({ routeId: route.id, purpose, to: address, mail, expiresHours, joins: open?.id ?? null });
  return 'after confirmation';
}

function addConsent(plan: Plan, event: PlannedConsent): void {
  if (!plan.consent.some(({ kind, purpose }) => kind === event.kind && purpose === event.purpose))
    plan.consent.push(event);
}

/** The words that a person agrees to: the tick's label as the form showed it, or the statement beside the button. */
function consentWording(consent: ConsentPolicy, { fields, statement }: PlanInput): string {
  const tick = fields.find((field) => field.id === consent.tickField);
  return tick?.label ?? statement;
}

function sentFields(results: LineResult[]): Record<string, SentValue> {
  return Object.fromEntries(
    results.flatMap(({ field, verdict }) => (verdict.kind === 'sent' ? [[field.key, verdict.value]] : [])),
  );
}

function missingRequired(results: LineResult[]): PlannedDelivery['held'] {
  const wrong = results.find(({ field, verdict }) => field.required && verdict.kind === 'wrong');
  return wrong?.verdict.kind === 'wrong'
    ? { cause: 'required field missing', message: `${wrong.field.label} ${wrong.verdict.message}` }
    : null;
}

function leftOut(results: LineResult[]): string[] {
  return results.flatMap(({ field, verdict }) =>
    !field.required && verdict.kind === 'wrong' ? [`${field.label} ${verdict.message}`] : [],
  );
}

/** The places that the service can take people out of. */
const leavesFor = ({ leaves }: Target, { can }: Catalogue): Place[] =>
  leaves.filter(({ group }) => (group === '' ? can.leavesLists : can.leavesGroups));

/** Fixed tags and those that answers set, each once, in that order. */
export function tagsFor(target: Pick<Target, 'tags' | 'tagRules'>, values: FieldValues): string[] {
  const byAnswer = target.tagRules.filter(({ field, answer }) => {
    const value = values[field];
    return Array.isArray(value)
      ? value.some((one) => one === answer)
      : value !== undefined && printValue(value) === answer;
  });
  return [...new Set([...target.tags, ...byAnswer.map(({ tag }) => tag)])].filter((tag) => tag !== '');
}
