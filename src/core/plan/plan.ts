import { consentState, type ConsentEvent, type ConsentEventKind } from '../consent/index.ts';
import { changesTo, keysOf, type ContactKey, type KnownContact, type ValueChange } from '../identity/index.ts';
import { applyMapping, type LineResult, type SentValue } from '../mapping/index.ts';
import { type FieldValues, type SourceField, printValue } from '../values/index.ts';
import { fieldsFor, type Catalogue } from './catalogue.ts';
import type { ConsentPolicy, DuplicatePolicy, Place, RouteDocument, Target } from './route.ts';

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
  consent: (ConsentEvent & { purpose: string })[];
  openConfirmations: { id: string; purpose: string; lastSentAt: number }[];
}

export interface PlanInput {
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  values: FieldValues;
  routes: LiveRoute[];
  known: KnownPerson;
  /** Catalogue by connection id. */
  catalogues: Record<string, Catalogue>;
  now: number;
}

export interface PlannedConsent {
  kind: ConsentEventKind;
  purpose: string;
  /** The words the person agreed to or was asked with. */
  wording: string;
}

export interface PlannedConfirmation {
  routeId: string;
  purpose: string;
  to: string;
  mail: ConsentPolicy['mail'];
  expiresHours: number;
  /** An open confirmation that was sent a moment ago and serves this submission too; null when a new one goes out. */
  joins: string | null;
}

/** What the person's record in the other system is to be after a delivery. */
export interface Intent {
  email: string;
  /** Id of the kind of record; '' where there is but one. */
  kind: string;
  fields: Record<string, SentValue>;
  list: string;
  group: string;
  tags: string[];
  /** Places and tags that the person is not to be in, or have, afterwards. */
  leaves: Place[];
  tagsOff: string[];
  duplicates: DuplicatePolicy;
  purpose: string;
  wording: string;
}

export interface PlannedDelivery {
  routeId: string;
  routeVersion: number;
  targetIndex: number;
  connectionId: string;
  when: 'now' | 'after confirmation';
  intent: Intent;
  /** Set when it cannot be sent as it is; it is held from the start. */
  held: { cause: 'required field missing'; message: string } | null;
  /** Optional values that the destination would not take. */
  leftOut: string[];
}

/** All that is to happen for one submission. */
export interface Plan {
  contact: { match: 'new' | 'matched'; contactId: string | null; key: ContactKey; changes: ValueChange[] } | null;
  consent: PlannedConsent[];
  confirmations: PlannedConfirmation[];
  deliveries: PlannedDelivery[];
  /** Why something a reader might expect does not happen. */
  notes: string[];
}

/**
 * Computes everything that one submission causes. Pure: the rehearsal shows what this returns, the intake worker
 * stores it and the delivery worker carries it out, so that a preview cannot differ from what happens.
 */
export function planSubmission(input: PlanInput): Plan {
  const { fields, values, known } = input;
  const plan: Plan = { contact: null, consent: [], confirmations: [], deliveries: [], notes: [] };
  const key = known.contact?.matchedBy ?? keysOf(fields, values)[0];
  if (!key) return { ...plan, notes: ['Nothing in it says who this is: no email field with an address.'] };
  plan.contact = {
    match: known.contact ? 'matched' : 'new',
    contactId: known.contact?.id ?? null,
    key,
    changes: changesTo(known.contact, fields, values),
  };
  if (input.routes.length === 0)
    plan.notes.push('No live route takes this source. The contact is kept; nothing is sent.');
  for (const route of input.routes) planRoute(plan, route, key.value, input);
  return plan;
}

function planRoute(plan: Plan, route: LiveRoute, email: string, input: PlanInput): void {
  const { consent, targets } = route.document;
  const wording = consentWording(consent, input);
  if (consent.tickField !== '' && input.values[consent.tickField] !== true) {
    plan.notes.push(`${route.name}: "${wording}" was not ticked, so there is no consent and nothing is sent.`);
    return;
  }
  addConsent(plan, { kind: 'given', purpose: consent.purpose, wording });
  const when = consent.mode === 'double' ? planConfirmation(plan, route, email, input) : 'now';
  targets.forEach((target, targetIndex) => {
    const catalogue = input.catalogues[target.connectionId];
    if (!catalogue) {
      plan.notes.push(`${route.name}: target ${targetIndex + 1} has no connection.`);
      return;
    }
    const results = applyMapping(fieldsFor(catalogue, target), target.lines, input.values);
    plan.deliveries.push({
      routeId: route.id,
      routeVersion: route.version,
      targetIndex,
      connectionId: target.connectionId,
      when,
      intent: {
        email,
        kind: target.kind,
        fields: sentFields(results),
        list: target.list,
        group: target.group,
        tags: catalogue.can.tags ? tagsFor(target, input.values) : [],
        leaves: leavesFor(target, catalogue),
        tagsOff: catalogue.can.untags ? target.tagsOff : [],
        duplicates: target.duplicates,
        purpose: consent.purpose,
        wording,
      },
      held: missingRequired(results),
      leftOut: leftOut(results),
    });
  });
}

/** Plans the confirmation that a purpose still needs, once per purpose, and says when its deliveries may go. */
function planConfirmation(plan: Plan, route: LiveRoute, email: string, input: PlanInput): PlannedDelivery['when'] {
  const { purpose, mail, expiresHours } = route.document.consent;
  const events = input.known.consent.filter((event) => event.purpose === purpose);
  if (consentState(events) === 'confirmed') {
    plan.notes.push(`${route.name}: already confirmed for ${purpose}, so no confirmation is sent.`);
    return 'now';
  }
  if (plan.confirmations.some((planned) => planned.purpose === purpose)) return 'after confirmation';
  const open = input.known.openConfirmations.find(
    (candidate) => candidate.purpose === purpose && input.now - candidate.lastSentAt < CONFIRMATION_REST_MS,
  );
  if (open) plan.notes.push(`${route.name}: a confirmation went out minutes ago; no second one is sent.`);
  else addConsent(plan, { kind: 'asked', purpose, wording: mail.subject });
  plan.confirmations.push({ routeId: route.id, purpose, to: email, mail, expiresHours, joins: open?.id ?? null });
  return 'after confirmation';
}

function addConsent(plan: Plan, event: PlannedConsent): void {
  if (!plan.consent.some(({ kind, purpose }) => kind === event.kind && purpose === event.purpose))
    plan.consent.push(event);
}

/** The words that a person agrees to: the tick's label as the form showed it, or the statement beside the button. */
function consentWording(consent: ConsentPolicy, { fields, statement }: PlanInput): string {
  const tick = fields.find((field) => field.key === consent.tickField);
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
    return Array.isArray(value) ? value.includes(answer) : value !== undefined && printValue(value) === answer;
  });
  return [...new Set([...target.tags, ...byAnswer.map(({ tag }) => tag)])].filter((tag) => tag !== '');
}
