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
  STAMP_FIELD,
  TOOK_FIELD,
  TRAP_FIELD,
  VARIANT_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
} from '../../../core/forms/index.ts';
import { pathIssues } from './pathIssues.ts';
import { variantIssues } from './variantIssues.ts';
import { identifyingFields } from '../../../core/identity/index.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import { areTimes, isZone, type FormDocument } from '../../../core/intake/index.ts';
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
  PLACEMENT_FIELD,
  VARIANT_FIELD,
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
  if (document.kind === 'posts' && document.each !== '' && !isPath(document.each))
    add('/each', 'This is not a JSONPath. Write it like $.orders[*].');
  if (document.kind === 'form') formIssues(document, add);
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
