import type { PartIssue } from '../../../contract/checks.ts';
import { ELAPSED_FIELD, STAMP_FIELD, TRAP_FIELD } from '../../../core/formats/index.ts';
import { identifyingFields } from '../../../core/identity/index.ts';
import {
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  VARIANT_FIELD,
  type MadeDocument,
} from '../../../core/intake/index.ts';
import { isPath } from '../../../core/json/index.ts';
import { widgetsOf } from '../../../core/values/index.ts';

/** Names of inputs that a form carries beside its own fields. */
const OWN_NAMES = new Set([
  TRAP_FIELD,
  ELAPSED_FIELD,
  STAMP_FIELD,
  PAGE_FIELD,
  REFERRER_FIELD,
  PLACEMENT_FIELD,
  VARIANT_FIELD,
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
