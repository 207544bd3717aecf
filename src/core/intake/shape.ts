import { isObject } from '../documents/index.ts';
import { stepTo } from '../json/index.ts';
import {
  holds,
  isListOfRecords,
  ISO_DAY,
  parseEmail,
  plainField,
  typeOf,
  UNKNOWN_MANNER,
  type SourceField,
  type TypeName,
} from '../values/index.ts';
import { keyFor, meaningOf } from './naming.ts';

const DEEPEST = 6;
/** A payload of more is one with names made of data, such as an object by ids. */
const MOST_PATHS = 300;
const MOST_FIELDS = 60;

/** What was seen at one place of many payloads. */
export interface PathSeen {
  /** In how many of those that came something stood there. */
  filled: number;
  /** What it seemed to be, and how often. */
  types: Partial<Record<TypeName, number>>;
  firstAt: number;
  lastAt: number;
  /** How many came one after the other without it, and since when; none while it comes. */
  without: number;
  goneSince: number | null;
  /** How many of those before it was gone had it, and how many came. */
  before: { filled: number; came: number } | null;
}

/** What payloads of one kind look like. Times are milliseconds since 1970. */
export interface Shape {
  came: number;
  paths: Record<string, PathSeen>;
}

export const NO_SHAPE: Shape = { came: 0, paths: {} };

/** A shape that has seen one more payload. */
export function learn({ came, paths }: Shape, payload: unknown, at: number): Shape {
  const found = new Map<string, TypeName>();
  for (const { path, value } of leaves(payload, '$', [])) if (!isEmpty(value)) found.set(path, seemsToBe(value));
  const next: Record<string, PathSeen> = {};
  for (const [path, seen] of Object.entries(paths)) {
    const type = found.get(path);
    next[path] =
      type === undefined
        ? {
            ...seen,
            without: seen.without + 1,
            goneSince: seen.goneSince ?? at,
            before: seen.before ?? { filled: seen.filled, came },
          }
        : {
            ...seen,
            filled: seen.filled + 1,
            types: { ...seen.types, [type]: (seen.types[type] ?? 0) + 1 },
            lastAt: at,
            without: 0,
            goneSince: null,
            before: null,
          };
  }
  for (const [path, type] of found)
    if (next[path] === undefined && Object.keys(next).length < MOST_PATHS)
      next[path] = {
        filled: 1,
        types: { [type]: 1 },
        firstAt: at,
        lastAt: at,
        without: 0,
        goneSince: null,
        before: null,
      };
  return { came: came + 1, paths: next };
}

/** What payloads look like that came one after the other. */
export const shapeOf = (payloads: unknown[]): Shape =>
  payloads.reduce<Shape>((shape, payload) => learn(shape, payload, 0), NO_SHAPE);

/** From so many on it can be said that something always came; and so many without it are no chance. */
const ENOUGH = 10;
const WITHOUT = 3;
const NEARLY_ALWAYS = 0.95;

/** What nearly always stood at a place and does not any more. */
export interface Gone {
  path: string;
  /** Milliseconds since 1970. */
  since: number;
  without: number;
}

export const goneFrom = ({ paths }: Shape): Gone[] =>
  Object.entries(paths).flatMap(([path, { without, goneSince, before }]) =>
    goneSince !== null &&
    before !== null &&
    without >= WITHOUT &&
    before.came >= ENOUGH &&
    before.filled >= NEARLY_ALWAYS * before.came
      ? [{ path, since: goneSince, without }]
      : [],
  );

/** What can be said of one place in payloads. */
export interface PathFinding {
  path: string;
  /** What it seems to be, and in which share of those that had something there. */
  type: TypeName;
  confidence: number;
  /** In which share of the payloads something stood there. */
  filled: number;
  /** Whether it says who somebody is, or tells of them what others should not know. */
  personal: boolean;
  /** Whether it looks like something that gives access: it is better left out. */
  secret: boolean;
}

/** What can be said of every place in payloads, in the order in which they were met. */
export const findingsOf = ({ came, paths }: Shape): PathFinding[] =>
  Object.entries(paths).map(([path, { filled, types }]) => {
    const name = namesIn(path).at(-1) ?? '';
    const [type, count] = mostly(types);
    return {
      path,
      type,
      confidence: filled === 0 ? 0 : count / filled,
      filled: came === 0 ? 0 : filled / came,
      personal: PERSONAL_TYPES.includes(type) || (PERSONAL_NAME.test(plain(name)) && !isOfThing(path, name)),
      secret: SECRET_NAME.test(plain(name)),
    };
  });

/** What a place mostly holds. Of texts that are longer at times, all are long texts; where it is mixed otherwise, it is text. */
function mostly(types: PathSeen['types']): [type: TypeName, count: number] {
  const counts = Object.entries(types) as [TypeName, number][];
  const all = counts.reduce((sum, [, count]) => sum + count, 0);
  const texts = (types.text ?? 0) + (types['long text'] ?? 0);
  if (texts === all && types['long text']) return ['long text', all];
  const [first = ['text', 0]] = [...counts].sort(([, one], [, other]) => other - one);
  return first[1] >= MOSTLY * all ? first : ['text', texts];
}

/** What is in a list has a name itself, which is nobody's. */
const isOfThing = (path: string, name: string): boolean => name === 'name' && path.includes('[*]');

const MOSTLY = 0.8;
const PERSONAL_TYPES: TypeName[] = ['email', 'phone', 'person name', 'postal address'];
const plain = (name: string): string => name.toLowerCase().replace(/[^a-z]/g, '');
const PERSONAL_NAME =
  /^(first|last|full|given|family|sur|user|customer|contact|display|nick)?name$|birth|^(dob|ip|ipaddress|clientip|street|city|postcode|postalcode|zip|zipcode|address\d?|gender|sex|age|iban|mobile|telephone|fax)$/;
const SECRET_NAME =
  /(password|passwd|secret|apikey|accesstoken|refreshtoken|privatekey|authorization|sessionid|cookie|cardnumber|cvc|cvv)$|^(token|auth|signature|sig)$/;

/** Names in a path, without signs: $.customer['e-mail'] has customer and e-mail. */
function namesIn(path: string): string[] {
  return [...path.matchAll(/\.([A-Za-z_]\w*)|\[("(?:[^"\\]|\\.)*")\]/g)].map(([, name, quoted]) =>
    name === undefined ? (JSON.parse(quoted ?? '""') as string) : name,
  );
}

/**
 * Fields with one more for each place that somebody chose; in a name that is taken, with the name around it. A field that is
 * there already, of the same name and type, and looks for nothing yet, is the one that is meant.
 */
export function withFieldsFor(before: SourceField[], findings: Pick<PathFinding, 'path' | 'type'>[]): SourceField[] {
  const fields = [...before];
  const meant = new Set(before.map(({ keepAs }) => keepAs));
  for (const { path, type } of findings) {
    if (fields.length === MOST_FIELDS) break;
    const waits = fields.findIndex(
      (field) => field.path === '' && field.type === type && field.key === keyFor(namesIn(path).at(-1) ?? '', []),
    );
    const waiting = fields[waits];
    if (waiting) {
      fields[waits] = { ...waiting, path };
      continue;
    }
    const names = namesIn(path);
    const name = names.at(-1) ?? '';
    const label = labelOf(name || 'value');
    const taken = fields.map(({ key }) => key);
    const own = keyFor(name, []);
    const key = taken.includes(own) ? keyFor(names.slice(-2).join(' '), taken) : own;
    const meaning = type === 'email' ? 'email' : type === 'phone' ? 'phone' : meaningOf(name);
    const keepAs = meant.has(meaning) ? '' : meaning;
    meant.add(meaning);
    fields.push({ ...plainField(key, type), label, path, keepAs });
  }
  return fields;
}

/**
 * Proposes fields for examples of a payload: one for every value in them, with its path and the type that it seems to have.
 * Whoever wires the source looks them over.
 */
export const inferFields = (...examples: unknown[]): SourceField[] =>
  withFieldsFor(
    [],
    findingsOf(shapeOf(examples)).filter(({ path, secret }) => !path.includes('[*]') && !secret),
  );

interface Leaf {
  path: string;
  value: unknown;
}

/** Every value of a payload that is one by itself: a text, an amount, a list of records; of such a list also what is in its records. */
function leaves(value: unknown, path: string, names: string[]): Leaf[] {
  if (Array.isArray(value) && value.length > 0 && isListOfRecords(value))
    return [{ path, value }, ...inRecords(value, path, names)];
  if (!isObject(value) || names.length === DEEPEST || seemsToBe(value) !== 'text') return [{ path, value }];
  return Object.entries(value).flatMap(([name, inner]) => leaves(inner, path + stepTo(name), [...names, name]));
}

const MOST_RECORDS = 50;

/** What is in the records of a list: the first thing that stands at each place. */
function inRecords(records: unknown[], path: string, names: string[]): Leaf[] {
  const found = new Map<string, Leaf>();
  for (const record of records.slice(0, MOST_RECORDS))
    for (const [name, inner] of Object.entries(isObject(record) ? record : {})) {
      const own = `${path}[*]${stepTo(name)}`;
      if (isEmpty(found.get(own)?.value) && !isObject(inner) && names.length < DEEPEST)
        found.set(own, { path: own, value: inner });
    }
  return [...found.values()];
}

const isEmpty = (value: unknown): boolean =>
  value === null ||
  value === undefined ||
  (typeof value === 'string' && value.trim() === '') ||
  (Array.isArray(value) && value.length === 0) ||
  (isObject(value) && Object.keys(value).length === 0);

/** Tried in this order: each is more particular than those that follow. */
const BY_TEXT: [TypeName, RegExp][] = [
  ['phone', /^\+[\d\s()./-]{6,}$/],
  ['date', ISO_DAY],
  ['date-time', /^\d{4}-\d{2}-\d{2}[T ]\d{2}:/],
  ['time', /^\d{2}:\d{2}(:\d{2})?$/],
  ['URL', /^https?:\/\//],
  // A number with a leading 0 is a name made of digits.
  ['number', /^-?(0|[1-9]\d{0,14})(\.\d+)?$/],
  ['yes/no', /^(true|false|yes|no)$/i],
];

function seemsToBe(value: unknown): TypeName {
  if (typeof value === 'number') return 'number';
  if (typeof value === 'boolean') return 'yes/no';
  if (Array.isArray(value)) return value.length > 0 && isListOfRecords(value) ? 'list of records' : 'several choices';
  if (isObject(value)) {
    if ('amount' in value && 'currency' in value) return 'money';
    if (typeof value.content === 'string' && 'name' in value) return 'file';
    if (holds('membership', value)) return 'membership';
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
  // Somebody wrote it for people to read.
  if (/^\p{Lu}/u.test(name) && !/_|[\p{Ll}\d]\p{Lu}/u.test(name)) return name;
  const words = name
    .replace(/([a-z\d])([A-Z])/g, '$1 $2')
    .replace(/[_.-]+/g, ' ')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}
