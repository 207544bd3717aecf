import { decide, type Condition, type Facts } from '../conditions/index.ts';
import { identifyingFields, keyKindOf, keyText, type ContactKey } from '../identity/index.ts';
import { applyMapping, type DestinationField, type LineResult, type SentValue } from '../mapping/index.ts';
import type { SourceField } from '../values/index.ts';
import { fieldsFor, type Catalogue } from './catalogue.ts';
import type { Given } from './asking.ts';
import type { LiveRoute, PlanInput, RouteFacts } from './input.ts';
import { INTENT_FORMAT, type Intent } from './intent.ts';
import { note, type Deliver, type Plan } from './planned.ts';
import type { Place, Target } from './route.ts';

/** A delivery before it is decided when it goes, and what was last meant for the person by the same target. */
export interface Draft {
  target: Target;
  delivery: Omit<Deliver, 'after'>;
  catalogue: Catalogue;
  before: Intent | null;
}

/** @param by.consent that it stands on; null where it needs none @param by.because why the target is for this person */
export function draftDelivery(
  target: Target,
  catalogue: Catalogue,
  {
    route,
    consent,
    because,
    input,
    facts,
  }: { route: LiveRoute; consent: Given | null; because: string; input: PlanInput; facts: RouteFacts },
): Draft {
  const destination = fieldsFor(catalogue, target);
  const results = applyMapping(destination, target.lines, facts);
  const channel = target.needs?.channel ?? 'email';
  const sent = input.known.sent.find((one) => one.routeId === route.id && one.targetId === target.id);
  return {
    target,
    catalogue,
    // Whoever left is written to as somebody new.
    before: sent?.intent.ends === null ? sent.intent : null,
    delivery: {
      kind: 'deliver',
      id: `${route.id} ${target.id}`,
      needs: consent && { purpose: consent.ask.purpose, channel },
      because,
      routeId: route.id,
      routeVersion: route.version,
      targetId: target.id,
      connectionId: target.connectionId,
      intent: {
        format: INTENT_FORMAT,
        subject: subjectOf(input).map((key) => ({ key, field: fieldOfKey(key, target, destination, input.fields) })),
        kind: target.kind,
        fields: sentFields(results),
        rules: rulesOf(results, target),
        places: placesFor(target, facts),
        tags: catalogue.can.tags ? tagsFor(target, facts) : [],
        leaves: leavesFor(target, catalogue),
        tagsOff: catalogue.can.untags ? target.tagsOff : [],
        ends: null,
        duplicates: target.duplicates,
        purpose: consent?.ask.purpose ?? '',
        channel,
        wording: consent?.wording ?? '',
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

/** Whether two parts of an intent are the same: both come out of one computation, so their members stand in one order. */
const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Whether something is meant that was not meant before, and is no mere filling of a gap. What adds a record changes none. */
export function isMore(intent: Intent, before: Intent | null): boolean {
  if (before === null || intent.duplicates === 'add') return false;
  return (
    Object.entries(intent.fields).some(([key, value]) => key in before.fields && !isSame(before.fields[key], value)) ||
    intent.tags.some((tag) => !before.tags.includes(tag)) ||
    intent.tagsOff.some((tag) => !before.tagsOff.includes(tag)) ||
    intent.places.some((place) => !isAmong(place, before.places)) ||
    !isSame(intent.leaves, before.leaves)
  );
}

/** What a form that nobody confirms may do to a confirmed person: fill gaps, and put them where everybody goes. */
export function onlyGaps(
  plan: Plan,
  { name }: LiveRoute,
  { target, delivery: { intent }, catalogue: { can }, before }: Draft,
): Intent {
  if (intent.duplicates === 'add' || intent.duplicates === 'leave alone') return intent;
  const known = before?.fields ?? {};
  const fields = Object.entries(intent.fields).filter(
    ([key, value]) => value !== null && (known[key] === undefined || isSame(known[key], value)),
  );
  const careful: Intent = {
    ...intent,
    fields: can.duplicates.includes('fill gaps') ? intent.fields : Object.fromEntries(fields),
    // What leaves alone even more stays so.
    rules: Object.fromEntries(Object.entries(intent.rules).filter(([, rule]) => rule === 'new people')),
    duplicates: can.duplicates.includes('fill gaps') ? 'fill gaps' : intent.duplicates,
    tags: intent.tags.filter(
      (tag) => forEverybody(target.tags, (one) => one.tag === tag) || before?.tags.includes(tag),
    ),
    places: intent.places.filter(
      (place) => forEverybody(target.places, (one) => isAmong(place, [one])) || isAmong(place, before?.places ?? []),
    ),
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

/** Whom deliveries are about: every key in the submission, and the one by which the person was recognised. */
function subjectOf({ keys, known }: PlanInput): ContactKey[] {
  // A key that belongs to somebody else must not lead to their record.
  const others = new Set(known.identified.possible.map(({ by }) => keyText(by)));
  return keys.filter((key) => !others.has(keyText(key)));
}

function sentFields(results: LineResult[]): Record<string, SentValue | null> {
  return Object.fromEntries(
    results.flatMap(({ field, verdict }) => (verdict.kind === 'sent' ? [[field.key, verdict.value]] : [])),
  );
}

/** The rules of those lines that have one of their own. Where each record is a thing of its own, nothing is there already. */
function rulesOf(results: LineResult[], { duplicates }: Target): Intent['rules'] {
  if (duplicates === 'add' || duplicates === 'leave alone') return {};
  return Object.fromEntries(
    results.flatMap(({ field, line, verdict }) =>
      verdict.kind === 'sent' && line?.overwrite ? [[field.key, line.overwrite]] : [],
    ),
  );
}

function missingRequired(results: LineResult[]): Deliver['held'] {
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

/** Whether one of several parts of a target, such as this one, is for everybody. */
const forEverybody = <Part extends { when: Condition | null }>(parts: Part[], isIt: (part: Part) => boolean): boolean =>
  parts.some((part) => part.when === null && isIt(part));

export const isAmong = ({ list, group }: Place, places: Place[]): boolean =>
  places.some((place) => place.list === list && place.group === group);

/** Whether a part of a target is for whoever the submission is of; what nobody can say is no yes. */
const isFor = (when: Condition | null, facts: Facts): boolean =>
  when === null || decide(when, facts, []).verdict === 'holds';

/** The places for somebody, each once, in the order of the target. */
export function placesFor({ places }: Pick<Target, 'places'>, facts: Facts): Place[] {
  const theirs = places.filter(({ when }) => isFor(when, facts)).map(({ list, group }) => ({ list, group }));
  return theirs.filter((place, index) => place.list !== '' && !isAmong(place, theirs.slice(0, index)));
}

/** The tags for somebody, each once, in the order of the target. */
export const tagsFor = ({ tags }: Pick<Target, 'tags'>, facts: Facts): string[] => [
  ...new Set(tags.filter(({ tag, when }) => tag !== '' && isFor(when, facts)).map(({ tag }) => tag)),
];
