import { fieldsOfKinds, type Catalogue, type CatalogueItem } from './catalogue.ts';

/** One difference between two fetches of a catalogue. */
export interface CatalogueDifference {
  /** warning: something that can make people not arrive. */
  level: 'warning' | 'note';
  text: string;
  what: 'list' | 'group' | 'tag' | 'field' | 'kind';
  id: string;
}

/** What differs between two fetches, the troubling first: what vanished, what became required, what is new. */
export function compareCatalogues(before: Catalogue, after: Catalogue): CatalogueDifference[] {
  const { list, group, kind } = after.can.calls;
  const differences = [
    ...compareItems('list', list, before.lists, after.lists),
    ...compareItems('group', group, groupsOf(before), groupsOf(after)),
    ...compareItems('tag', 'tag', before.tags, after.tags),
    ...compareItems('kind', kind, before.kinds, after.kinds),
    ...compareFields(before, after),
  ];
  return differences.sort((a, b) => Number(a.level === 'note') - Number(b.level === 'note'));
}

const groupsOf = ({ lists }: Catalogue): CatalogueItem[] => lists.flatMap(({ groups }) => groups);

function compareItems(
  what: CatalogueDifference['what'],
  word: string,
  before: CatalogueItem[],
  after: CatalogueItem[],
): CatalogueDifference[] {
  const known = new Map(before.map((item) => [item.id, item]));
  const present = new Map(after.map((item) => [item.id, item]));
  return [
    ...before
      .filter(({ id }) => !present.has(id))
      .map(({ id, name }) => warning(what, id, `The ${word} ${name} vanished.`)),
    ...after.flatMap(({ id, name }) => {
      const old = known.get(id);
      if (!old) return [note(what, id, `The ${word} ${name} is new.`)];
      return old.name === name ? [] : [note(what, id, `The ${word} ${old.name} is now called ${name}.`)];
    }),
  ];
}

function compareFields(before: Catalogue, after: Catalogue): CatalogueDifference[] {
  const known = new Map(fieldsOfKinds(before).map((entry) => [entry.id, entry.field]));
  const present = new Map(fieldsOfKinds(after).map((entry) => [entry.id, entry.field]));
  return [
    ...[...known]
      .filter(([id]) => !present.has(id))
      .map(([id, { label }]) => warning('field', id, `The field ${label} vanished.`)),
    ...[...present].flatMap(([id, field]) => {
      const old = known.get(id);
      const { label } = field;
      if (!old)
        return [
          field.required
            ? warning('field', id, `The field ${label} is new, and required.`)
            : note('field', id, `The field ${label} is new.`),
        ];
      return [
        ...(label === old.label ? [] : [note('field', id, `The field ${old.label} is now called ${label}.`)]),
        ...(field.required && !old.required ? [warning('field', id, `The field ${label} is now required.`)] : []),
        ...(!field.required && old.required ? [note('field', id, `The field ${label} is no longer required.`)] : []),
        ...(field.type === old.type
          ? []
          : [warning('field', id, `The field ${label} now takes ${field.type}, and took ${old.type}.`)]),
        ...old.choices
          .filter((choice) => !field.choices.includes(choice))
          .map((choice) => warning('field', id, `The field ${label} no longer takes "${choice}".`)),
        ...(field.maxLength !== null && (old.maxLength === null || field.maxLength < old.maxLength)
          ? [warning('field', id, `The field ${label} now takes at most ${field.maxLength} characters.`)]
          : []),
      ];
    }),
  ];
}

type Parts = [what: CatalogueDifference['what'], id: string, text: string];
const warning = (...[what, id, text]: Parts): CatalogueDifference => ({ level: 'warning', what, id, text });
const note = (...[what, id, text]: Parts): CatalogueDifference => ({ level: 'note', what, id, text });
