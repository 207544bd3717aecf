import type { DestinationField, FormerName } from '../mapping/index.ts';
import type { Catalogue } from './catalogue.ts';

/**
 * What a service offers now, with what each thing was called before, where it was renamed there: the id stays, the name does
 * not. What was known of earlier names is kept.
 * @param before as it was last fetched @param now in milliseconds since 1970
 */
export function withFormerNames(before: Catalogue, after: Catalogue, now: number): Catalogue {
  const items = <Item extends Named>(old: Item[], present: Item[]) =>
    renamed(old, present, { id: idOf, name: nameOf }, now);
  const fields = (old: DestinationField[], present: DestinationField[]) => renamed(old, present, FIELD, now);
  return {
    ...after,
    lists: items(before.lists, after.lists).map((list) => ({
      ...list,
      groups: items(before.lists.find(({ id }) => id === list.id)?.groups ?? [], list.groups),
    })),
    tags: items(before.tags, after.tags),
    fields: fields(before.fields, after.fields),
    kinds: items(before.kinds, after.kinds).map((kind) => ({
      ...kind,
      fields: fields(before.kinds.find(({ id }) => id === kind.id)?.fields ?? [], kind.fields),
    })),
  };
}

interface Named {
  id: string;
  name: string;
  formerly?: FormerName;
}
const idOf = ({ id }: Named) => id;
const nameOf = ({ name }: Named) => name;
const FIELD = { id: ({ key }: DestinationField) => key, name: ({ label }: DestinationField) => label };

function renamed<Item extends { formerly?: FormerName }>(
  before: Item[],
  after: Item[],
  read: { id: (item: Item) => string; name: (item: Item) => string },
  now: number,
): Item[] {
  const known = new Map(before.map((item) => [read.id(item), item]));
  return after.map((item) => {
    const old = known.get(read.id(item));
    if (!old) return item;
    const formerly = read.name(old) === read.name(item) ? old.formerly : { name: read.name(old), until: now };
    return formerly === undefined ? item : { ...item, formerly };
  });
}
