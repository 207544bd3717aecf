import type { Channel } from '../consent/index.ts';
import { foldedName } from '../identity/index.ts';
import type { DestinationField, DestinationFieldType, FormerName, MapLine } from '../mapping/index.ts';
import type { DuplicatePolicy, Target } from './route.ts';

/** A place or label in the other system. */
export interface CatalogueItem {
  id: string;
  name: string;
  /** What it was called before, where it was renamed there. */
  formerly?: FormerName;
}

export interface CatalogueList extends CatalogueItem {
  /** Whether it asks people itself to confirm; absent where that is not known. */
  confirms?: boolean;
  groups: CatalogueItem[];
}

/** A kind of record, with fields of its own: a person, an enquiry, a sheet with its columns. */
export interface CatalogueKind extends CatalogueItem {
  /** Whether each record is a thing of its own, such as an enquiry: a second one is not the first one changed. */
  repeats?: boolean;
  fields: DestinationField[];
}

/** What a kind of service can do; what it cannot is neither offered nor expected. */
export interface Abilities {
  lists: boolean;
  groups: boolean;
  tags: boolean;
  /** Whether people can be taken out of lists and groups again, and tags off them. */
  leavesLists: boolean;
  leavesGroups: boolean;
  untags: boolean;
  kinds: boolean;
  /** Takes fields of any name: the operator says which. */
  freeFields: boolean;
  /** Whether somebody can be asked for after sending. */
  readBack: boolean;
  /** Whether people who left a list there are not taken back without new proof; absent in older catalogues. */
  refusesLeft?: boolean;
  /** Whether its lists do not ask those to confirm whose proof is sent with them; absent in older catalogues. */
  takesProof?: boolean;
  /** By which channels people can be unsubscribed from here; absent in older catalogues. */
  unsubscribes?: Channel[];
  /** Whether a record can be deleted from here; absent in older catalogues. */
  removes?: boolean;
  /** Whether a write names the address by itself, mapped or not; absent in older catalogues. */
  takesAddress?: boolean;
  /** Of which of these what is sent takes the place of what is there, which nobody can read; absent where of none. */
  takesAway?: ('lists' | 'groups' | 'tags')[];
  /** Whether somebody is put into the first of several lists only; absent in older catalogues. */
  oneList?: boolean;
  /** What can happen to a person who is there already; the first is the usual one. */
  duplicates: DuplicatePolicy[];
  /** What can be made there from here. */
  makes: { list: boolean; group: boolean; tag: boolean; field: boolean };
  /** The types that a field made from here can have; what is not among them is made as text. Absent in older catalogues. */
  makesTypes?: DestinationFieldType[];
  /** The words in which the service holds yes and no; absent where it has none of its own. */
  flags?: { yes: string | number | boolean; no: string | number | boolean };
  /** What the service itself calls its places. */
  calls: { list: string; group: string; kind: string };
}

/** What a connected system offers. */
export interface Catalogue {
  lists: CatalogueList[];
  tags: CatalogueItem[];
  /** Fields of a service that has but one kind of record. */
  fields: DestinationField[];
  kinds: CatalogueKind[];
  can: Abilities;
}

/** The fields that a target can fill: those of its kind of record, and any that the operator named. */
export function fieldsFor(catalogue: Catalogue, target: { kind: string; lines: MapLine[] }): DestinationField[] {
  const known = catalogue.can.kinds
    ? (catalogue.kinds.find(({ id }) => id === target.kind)?.fields ?? [])
    : catalogue.fields;
  if (!catalogue.can.freeFields) return known;
  const named = target.lines.filter(({ to }) => !known.some(({ key }) => key === to));
  return [...known, ...named.map(({ to }) => freeField(to))];
}

/** The lists that a target puts people into, as far as they are there. */
export const listsOf = (catalogue: Catalogue | undefined, { places }: Pick<Target, 'places'>): CatalogueList[] =>
  catalogue?.lists.filter(({ id }) => places.some(({ list }) => list === id)) ?? [];

const freeField = (key: string): DestinationField => ({
  key,
  label: key,
  type: 'text',
  required: false,
  choices: [],
  maxLength: null,
});

/** Every field of a catalogue, named by its kind of record and its key. */
export function fieldsOfKinds({ can, kinds, fields }: Catalogue): { id: string; field: DestinationField }[] {
  return can.kinds
    ? kinds.flatMap((kind) => kind.fields.map((field) => ({ id: `${kind.id} ${field.key}`, field })))
    : fields.map((field) => ({ id: ` ${field.key}`, field }));
}

/** What is to be made there. */
export interface NamedMaking {
  what: 'list' | 'group' | 'tag' | 'field';
  name: string;
  /** The list that a group is made in; '' otherwise. */
  list: string;
  /** The kind of record that a field is made for; '' where there is but one. */
  kind: string;
}

/** What is there already under the name of something that is to be made, however it is written; null where nothing is. */
export function namesakeOf(
  { lists, tags, kinds, fields }: Catalogue,
  { what, name, list, kind }: NamedMaking,
): string | null {
  const there = {
    list: lists,
    group: lists.find(({ id }) => id === list)?.groups ?? [],
    tag: tags,
    field: (kinds.find(({ id }) => id === kind)?.fields ?? fields).map(({ label }) => ({ name: label })),
  }[what];
  return there.find((one) => foldedName(one.name) === foldedName(name))?.name ?? null;
}
