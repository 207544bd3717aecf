import { isObject } from '../documents/index.ts';
import {
  holds,
  isListOfRecords,
  parseEmail,
  plainField,
  typeOf,
  UNKNOWN_MANNER,
  type SourceField,
  type TypeName,
} from '../values/index.ts';
import { keyFor, meaningOf } from './naming.ts';

const DEEPEST = 5;
const MOST_FIELDS = 60;

/**
 * Proposes fields for an example of a payload: one for every value in it, with its path and the type that it seems to have.
 * Whoever wires the source looks them over.
 */
export function inferFields(example: unknown): SourceField[] {
  const fields: SourceField[] = [];
  const meant = new Set<string>();
  for (const { path, names, value } of leaves(example, '$', [])) {
    if (fields.length === MOST_FIELDS) break;
    const label = labelOf(names.at(-1) ?? 'value');
    const taken = fields.map(({ key }) => key);
    const own = keyFor(names.at(-1) ?? '', []);
    const key = taken.includes(own) ? keyFor(names.slice(-2).join(' '), taken) : own;
    const type = seemsToBe(value);
    const meaning = type === 'email' ? 'email' : type === 'phone' ? 'phone' : meaningOf(names.at(-1) ?? '');
    const keepAs = meant.has(meaning) ? '' : meaning;
    meant.add(meaning);
    fields.push({ ...plainField(key, type), label, path, keepAs });
  }
  return fields;
}

interface Leaf {
  path: string;
  names: string[];
  value: unknown;
}

/** Every value of a payload that is one by itself: a text, an amount, a list of records. */
function leaves(value: unknown, path: string, names: string[]): Leaf[] {
  if (!isObject(value) || names.length === DEEPEST || seemsToBe(value) !== 'text') return [{ path, names, value }];
  return Object.entries(value).flatMap(([name, inner]) => {
    const step = /^[A-Za-z_]\w*$/.test(name) ? `.${name}` : `[${JSON.stringify(name)}]`;
    return leaves(inner, path + step, [...names, name]);
  });
}

/** Tried in this order: each is more particular than those that follow. */
const BY_TEXT: [TypeName, RegExp][] = [
  ['phone', /^\+[\d\s()./-]{6,}$/],
  ['date', /^\d{4}-\d{2}-\d{2}$/],
  ['date-time', /^\d{4}-\d{2}-\d{2}T/],
  ['URL', /^https?:\/\//],
];

function seemsToBe(value: unknown): TypeName {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'yes/no';
  if (Array.isArray(value)) return value.length > 0 && isListOfRecords(value) ? 'list of records' : 'several choices';
  if (isObject(value)) {
    if ('amount' in value && 'currency' in value) return 'money';
    if (typeof value.content === 'string' && 'name' in value) return 'file';
    return holds('person name', value) ? 'person name' : holds('postal address', value) ? 'postal address' : 'text';
  }
  if (typeof value !== 'string') return 'text';
  if (/^data:[^,]*;base64,/.test(value)) return 'file';
  if (parseEmail(value).ok) return 'email';
  const found = BY_TEXT.find(([type, looks]) => looks.test(value) && typeOf(type).parse(value, UNKNOWN_MANNER).ok);
  return found?.[0] ?? (value.includes('\n') ? 'long text' : 'text');
}

/** "first_name" and "firstName" as words for people. */
function labelOf(name: string): string {
  const words = name
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/[_.-]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
