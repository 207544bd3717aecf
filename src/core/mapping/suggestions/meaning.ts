import type { TypeName } from '../../values/index.ts';
import { LIGHT, type Meaning } from './glossary.ts';
import { folded, piecesOf, type Piece } from './words.ts';

/** What is known of a field, of a source or of a destination, when it is compared with others. */
export interface NamedField {
  key: string;
  label: string;
  type: TypeName;
  /** The answers of a choice. */
  answers: string[];
  /** Which value of the contact it is; '' for none. */
  keepAs: string;
}

/** One thing that a field is about: any of some meanings, or a word of its own (`=word`), with its weight among the others. */
export interface Part {
  senses: string[];
  weight: number;
}

/** What a field is about, by each of its names: its label, its key, what it is kept as. */
export interface Reading {
  by: 'label' | 'key' | 'contact';
  parts: Part[];
}

/** What the values of a contact mean, by the names under which they are kept. */
const KEPT: Record<string, Meaning> = {
  email: 'email',
  first_name: 'first name',
  last_name: 'last name',
  full_name: 'full name',
  phone: 'phone',
};

/** What a type says by itself of a field whose name says nothing. */
const BY_TYPE: Partial<Record<TypeName, Meaning>> = {
  email: 'email',
  phone: 'phone',
  country: 'country',
  language: 'language',
  'person name': 'full name',
  'postal address': 'address',
};

/** The types in which a meaning comes; one that is not here comes in any. */
const TYPES_OF: Partial<Record<Meaning, TypeName[]>> = {
  email: ['email', 'text', 'yes/no'],
  country: ['country', 'text', 'choice'],
  region: ['text', 'choice'],
  street: ['text', 'long text'],
  address: ['text', 'long text', 'postal address'],
  post: ['yes/no', 'choice'],
  birthday: ['date', 'text'],
  salutation: ['choice', 'text'],
  phone: ['phone', 'text', 'yes/no'],
  mobile: ['phone', 'text'],
  people: ['number', 'text', 'choice'],
  'first name': ['text', 'person name'],
  'last name': ['text', 'person name'],
  'full name': ['text', 'person name'],
};

const NAMES: Meaning[] = ['first name', 'last name', 'full name'];
/** What belongs to a person, whoever that is: the teacher's email is an email. */
const PERSONAL: Meaning[] = [...NAMES, 'email', 'phone', 'mobile', 'job title'];
const ROLES: Meaning[] = ['teacher', 'customer', 'member', 'contact', 'work', 'company'];
const ROLE_WEIGHT = 0.3;
const SALUTATIONS = /^(mr|mrs|ms|miss|mx|dr|herr|frau|m|mme|mlle|sr|sra|sig|dhr|mevr|pan|pani|herr|fru|様)\.?$/u;

/** A word that the glossary does not have; less among many, and in the sentence beside a box. */
const OWN_WORD = 0.8;
const OWN_WORD_OF_MANY = 0.3;
const MANY = 3;

/** What each field of a set is about. Fields are read together, since one tells what another means: "Name" beside "First name". */
export function readingsOf(fields: NamedField[]): Map<NamedField, Reading[]> {
  const sure = new Map(fields.map((field) => [field, sureOf(field)]));
  return new Map(
    fields.map((field) => {
      const others = new Set(fields.filter((one) => one !== field).flatMap((one) => sure.get(one) ?? []));
      const label = reading('label', piecesOf(field.label), field, others);
      const key = folded(field.key) === folded(field.label) ? null : reading('key', piecesOf(field.key), field, others);
      const kept = KEPT[field.keepAs];
      const contact: Reading | null = kept ? { by: 'contact', parts: [{ senses: [kept], weight: 1 }] } : null;
      return [field, [label, key, contact].filter((one): one is Reading => one !== null && one.parts.length > 0)];
    }),
  );
}

/** What a field means without looking at others. */
function sureOf(field: NamedField): Meaning[] {
  const known = [...piecesOf(field.label), ...piecesOf(field.key)]
    .filter(({ meanings }) => meanings.length === 1)
    .flatMap(({ meanings }) => meanings);
  const byType = BY_TYPE[field.type];
  const kept = KEPT[field.keepAs];
  return [...known, ...(byType ? [byType] : []), ...(kept ? [kept] : [])];
}

function reading(by: 'label' | 'key', pieces: Piece[], field: NamedField, others: Set<Meaning>): Reading {
  const meant = pieces.map((piece) => ({
    word: piece.word,
    meanings: chosen(piece, { field, pieces, others }),
  }));
  const known = meant.flatMap(({ meanings }) => meanings);
  const byType = BY_TYPE[field.type];
  if (byType && (field.type === 'email' ? !known.includes('email') : known.length === 0) && pieces.length > 0)
    meant.push({ word: byType, meanings: [byType] });
  return { by, parts: weighed(meant, field) };
}

type Meant = { word: string; meanings: Meaning[] };

function weighed(meant: Meant[], field: NamedField): Part[] {
  const own = meant.filter(({ meanings }) => meanings.length === 0).length;
  const ofMany = own > MANY || meant.length > MANY + 1 || field.type === 'yes/no';
  const isPersonal = meant.some(({ meanings }) => meanings.some((one) => PERSONAL.includes(one)));
  const parts = meant
    // The address in "email address" is no other thing.
    .filter(({ meanings }) => field.type !== 'email' || !meanings.includes('address'))
    .map(({ word, meanings }): Part => {
      if (meanings.length === 0) return { senses: [`=${word}`], weight: ofMany ? OWN_WORD_OF_MANY : OWN_WORD };
      if (meanings.includes('somebody else')) return { senses: ['somebody else', `=${word}`], weight: 1 };
      const isRole = isPersonal && meanings.every((one) => ROLES.includes(one));
      const light = Math.max(...meanings.map((one) => LIGHT[one] ?? 1));
      return { senses: meanings, weight: isRole ? Math.min(ROLE_WEIGHT, light) : light };
    });
  const heaviest = Math.max(0, ...parts.map(({ weight }) => weight));
  // Where everything is light, the heaviest is what it is about.
  return heaviest >= OWN_WORD_OF_MANY && parts.some(({ weight }) => weight === 1 || weight >= OWN_WORD)
    ? parts
    : parts.map((part) => (part.weight === heaviest ? { ...part, weight: 1 } : part));
}

interface Beside {
  field: NamedField;
  pieces: Piece[];
  others: Set<Meaning>;
}

const PLACES: Meaning[] = ['city', 'postcode', 'street', 'country', 'house number'];

/** Which of the meanings of a piece is meant here. Several stay where nothing tells them apart. */
function chosen(piece: Piece, { field, pieces, others }: Beside): Meaning[] {
  const fitting = piece.meanings.filter((one) => TYPES_OF[one]?.includes(field.type) ?? true);
  const all = fitting.length > 0 ? fitting : piece.meanings;
  if (all.length < 2) return all;
  const has = (one: Meaning) => all.includes(one);
  const rest = (...without: Meaning[]) => all.filter((one) => !without.includes(one));
  const isOfSomething = pieces.some(
    (other) => other !== piece && !other.meanings.some((one) => (LIGHT[one] ?? 1) < 0.4 || NAMES.includes(one)),
  );
  if (has('label of it')) {
    if (isOfSomething) return ['label of it'];
    return chosen({ ...piece, meanings: rest('label of it') }, { field, pieces, others });
  }
  if (all.some((one) => NAMES.includes(one))) return nameAmong(all, others);
  if (has('post') && has('email')) {
    const isPost = field.type === 'yes/no' && others.has('email');
    return [isPost ? 'post' : 'email'];
  }
  if (has('region') && has('status')) return PLACES.some((one) => others.has(one)) ? ['region'] : all;
  if (has('region') && has('country'))
    return [others.has('country') && field.type !== 'country' ? 'region' : 'country'];
  if (has('address') && has('street')) return [others.has('city') || others.has('postcode') ? 'street' : 'address'];
  if (has('salutation') && has('job title')) {
    if (field.answers.some((answer) => SALUTATIONS.test(folded(answer)))) return ['salutation'];
    if (others.has('job title')) return ['salutation'];
    return others.has('salutation') ? ['job title'] : all;
  }
  if (has('company') && has('work')) return [isOfSomething ? 'work' : 'company'];
  return all;
}

function nameAmong(all: Meaning[], others: Set<Meaning>): Meaning[] {
  const first = others.has('first name');
  const last = others.has('last name');
  if (all.includes('last name') && first && !last) return ['last name'];
  if (all.includes('first name') && last && !first) return ['first name'];
  const names = all.filter((one) => NAMES.includes(one));
  return [names.includes('full name') ? 'full name' : (names[0] ?? 'full name')];
}
