import { allSteps, checkChat, FINISHED_FIELD } from '../../../core/chat/index.ts';
import type { PartIssue } from '../../../contract/checks.ts';
import {
  ELAPSED_FIELD,
  AT_FIELD,
  KEPT_FIELD,
  KEY_FIELD,
  LATER_FIELD,
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  SHOWING_FIELD,
  STAMP_FIELD,
  TOOK_FIELD,
  TRAP_FIELD,
  VARIANT_FIELD,
  VERSION_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
} from '../../../core/forms/index.ts';
import { pathIssues } from './pathIssues.ts';
import { chatVariantIssues, variantIssues } from './variantIssues.ts';
import { identifyingFields } from '../../../core/identity/index.ts';
import {
  isPosted,
  type MadeDocument,
  type RegistrationDocument,
  saidPartsOf,
  type SaidParts,
  type ChatDocument,
} from '../../../core/intake/index.ts';
import { areTimes, isZone, type FormDocument, type PostedDocument } from '../../../core/intake/index.ts';
import { isPath } from '../../../core/json/index.ts';
import { widgetsOf } from '../../../core/values/index.ts';

/** Names of inputs that a form carries beside its own fields. */
const OWN_NAMES = new Set([
  TRAP_FIELD,
  ELAPSED_FIELD,
  STAMP_FIELD,
  TOOK_FIELD,
  AT_FIELD,
  KEPT_FIELD,
  KEY_FIELD,
  LATER_FIELD,
  PAGE_FIELD,
  REFERRER_FIELD,
  SHOWING_FIELD,
  PLACEMENT_FIELD,
  VARIANT_FIELD,
  VERSION_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
]);

/** What keeps a source from going live, each with the part that is wrong. */
export function publishingIssues(document: MadeDocument): PartIssue[] {
  const { fields, kind } = document;
  const issues: PartIssue[] = [];
  const add = (pointer: string, detail: string) => void issues.push({ pointer, detail });
  if (fields.length === 0) add('/fields', 'It has no fields.');
  if (identifyingFields(fields).length === 0)
    add(
      '/fields',
      'Nothing in it says who somebody is: it needs an email field, or a phone or an id that is kept as such.',
    );
  if (isPosted(document)) webhookIssues(document, add);
  if (document.kind === 'form') formIssues(document, add);
  if (document.kind === 'chat') chatIssues(document, add);
  if (document.kind === 'registration') membershipIssues(document, add);
  const said = saidPartsOf(document);
  if (said) saidIssues(document, said, add);
  fields.forEach((field, index) => {
    const at = `/fields/${index}`;
    const { key, id, type, widget, options, label } = field;
    const before = fields.slice(0, index);
    if (kind === 'form' && OWN_NAMES.has(key))
      add(`${at}/key`, `"${key}" is used by the form itself. Choose another field name.`);
    if (before.some((other) => other.key === key))
      add(`${at}/key`, `Two fields are named "${key}". Each needs its own name.`);
    if (before.some((other) => other.id === id)) add(`${at}/id`, `Two fields have the id "${id}".`);
    if (!widgetsOf(type).includes(widget)) add(`${at}/widget`, `"${label}" cannot be entered in this way.`);
    if (kind === 'form' && (type === 'choice' || type === 'several choices') && options.length === 0)
      add(`${at}/options`, `"${label}" has no answers to choose from.`);
    if (kind === 'form' && type === 'list of records' && widget === 'usual' && options.length === 0)
      add(`${at}/options`, `"${label}" has no columns to fill in.`);
    const own = field.path.replace(/^@/, '$');
    if (own !== '' && !isPath(own))
      add(`${at}/path`, `"${field.path}" is not a JSONPath. Write it like $.customer.email.`);
  });
  return issues;
}

/** Says of a path to something in payloads that it is none. @param such one as an example */
function pathIssue(pointer: string, path: string, such: string, add: (pointer: string, detail: string) => void): void {
  if (path !== '' && !isPath(path.replace(/^@/, '$'))) add(pointer, `This is not a JSONPath. Write it like ${such}.`);
}

/** What keeps an address for programs in particular from going live. */
function webhookIssues(document: PostedDocument, add: (pointer: string, detail: string) => void): void {
  const { each, idPath, events, challenge, proof } = document;
  const path = (pointer: string, text: string, such: string) => pathIssue(pointer, text, such, add);
  path('/each', each, '$.orders[*]');
  path('/idPath', idPath, '$.id');
  path('/events/path', events.path, '$.type');
  if (challenge.by === 'body') path('/challenge/name', challenge.name, '$.challenge');
  if (challenge.by !== 'nothing' && challenge.name === '') add('/challenge/name', 'Say where the word stands.');
  if (proof.by === 'basic' && proof.user === '') add('/proof/user', 'Basic authentication needs a user name.');
  if ((proof.by === 'header' || proof.by === 'signature') && proof.header === '')
    add('/proof/header', 'Name the header.');
  if (proof.by === 'signature' && !proof.canonical.includes('{body}'))
    add('/proof/canonical', 'What is signed has to have {body} in it: else a signature would fit any body.');
  if (proof.by === 'signature' && proof.timeHeader !== '' && !proof.canonical.includes('{time}'))
    add('/proof/canonical', 'The time has to be signed too, as {time}: else an old message could be given a new one.');
  if (events.path !== '' && events.others === 'ignore' && !events.known.some(({ act }) => act === 'take'))
    add('/events/others', 'Every kind of event is ignored: nothing would ever be taken.');
}

/** What keeps a chat in particular from going live. */
function chatIssues(document: ChatDocument, add: (pointer: string, detail: string) => void): void {
  const { fields, showing, variants } = document;
  const parts = [document, ...variants.flatMap(({ face }) => face ?? [])].flatMap((face) => face.parts);
  chatVariantIssues(document, add);
  for (const { at, text, blocks } of checkChat(document.parts, fields)) if (blocks) add(`/parts/${at}`, text);
  if (!fields.some(({ id }) => id === FINISHED_FIELD))
    add('/fields', `The field "${FINISHED_FIELD}" is needed: by it is known whether a conversation came to its end.`);
  for (const zone of parts.flatMap(({ steps }) =>
    steps.flatMap((step) => (step.kind === 'decide' ? step.rules.flatMap(({ hours }) => hours?.zone ?? []) : [])),
  ))
    if (!isZone(zone)) add('/parts', `"${zone}" is no time zone, such as Europe/London.`);
  const inForms = new Set(allSteps(parts).flatMap(({ step }) => (step.kind === 'form' ? step.fields : [])));
  for (const { id, label, type } of fields)
    if (type === 'file' && inForms.has(id))
      add('/parts', `“${label}” is a file: ask for it by a step of its own, as small forms take none.`);
  if (showing.devices.length === 0) add('/showing/devices', 'It is shown on no device: choose at least one.');
}

/** What keeps a source from going live that tells what people agreed to elsewhere: the fields that say so. */
function saidIssues(
  document: MadeDocument,
  { answers, kindField, testField }: SaidParts,
  add: (pointer: string, detail: string) => void,
): void {
  const { fields } = document;
  const membership = document.kind === 'registration' ? [document.membershipField] : [];
  const needed = [
    kindField,
    testField,
    ...membership,
    ...answers.flatMap(({ field, words, at }) => [field, words, at]),
  ];
  for (const id of needed)
    if (!fields.some((field) => field.id === id))
      add('/fields', `The field "${id}" is needed: by it is known what happened, or what somebody agreed to.`);
}

/** What keeps memberships from being read: where their parts are, and whose days they are. */
function membershipIssues(
  { membershipPaths, zone }: RegistrationDocument,
  add: (pointer: string, detail: string) => void,
): void {
  for (const part of ['level', 'begins', 'ends'] as const)
    pathIssue(`/membershipPaths/${part}`, membershipPaths[part], '$.plan.name', add);
  if (!isZone(zone)) add('/zone', `"${zone}" is no time zone, such as Europe/London.`);
}

/** What keeps a form in particular from going live. */
function formIssues(document: FormDocument, add: (pointer: string, detail: string) => void): void {
  const { items, open, presentation, showing, fields } = document;
  pathIssues(document, add);
  variantIssues(document, add);
  if (!isZone(open.zone)) add('/open/zone', `"${open.zone}" is no time zone, such as Europe/London.`);
  else if (!areTimes(open))
    add('/open', 'The times from when to when it is open cannot be: the end is before the beginning.');
  if (presentation !== 'inline' && showing.triggers.length === 0)
    add('/showing/triggers', 'Nothing ever shows it: add what shows it, such as after some seconds.');
  if (presentation !== 'inline' && showing.devices.length === 0)
    add('/showing/devices', 'It is shown on no device: choose at least one.');
  items.forEach((item, index) => {
    if (items.slice(0, index).some(({ id }) => id === item.id))
      add(`/items/${index}/id`, `Two things on the form have the id "${item.id}".`);
  });
  fields.forEach(({ range, label }, index) => {
    if (range && range.from >= range.to) add(`/fields/${index}/range`, `The scale of "${label}" ends where it begins.`);
  });
}
