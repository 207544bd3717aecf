import type { Paging, Profile } from '../../../contract/profile/index.ts';
import type { DestinationFieldType } from '../../../core/mapping/index.ts';
import type { Operation } from './openApi.ts';
import { PAGING_NAMES, requestOf } from './requests.ts';
import {
  EMAIL,
  FIELDS,
  GROUPS,
  findSchema,
  hasEmail,
  ID,
  isOf,
  LISTS,
  memberNamed,
  membersOf,
  NAME,
  pathTo,
  STATE,
  TAGS,
  type Schema,
} from './schemaWords.ts';

/** Where the person is in an answer. */
export const pathOfRecord = ({ answer }: Operation): string => findSchema(answer ?? undefined, hasEmail)?.path ?? '$';

function listing(operation: Operation) {
  const found = findSchema(operation.answer ?? undefined, (schema) => isOf(schema, 'array'));
  const items = found ? `${found.path}[*]` : '$[*]';
  const members = membersOf(found?.schema.items);
  const paging = pagingOf(operation);
  return { request: requestOf(operation), items, members, ...(paging ? { paging } : {}) };
}

function pagingOf({ parameters, answer }: Operation): Paging | undefined {
  const names = parameters.map(({ name }) => PAGING_NAMES[name.toLowerCase()]);
  const members = membersOf(answer ?? undefined);
  if (names.includes('cursor')) {
    const next = memberNamed(members, /^(next|next_?cursor|cursor|next_?page_?token)$/i);
    return next ? { kind: 'cursor', next: pathTo(next) } : undefined;
  }
  if (names.includes('page')) {
    const pages = memberNamed(members, /^(pages|total_?pages|page_?count)$/i);
    return { kind: 'page number', ...(pages ? { pages: pathTo(pages) } : {}) };
  }
  if (!names.includes('offset')) return undefined;
  const total = memberNamed(members, /^(total|count|total_?count)$/i);
  return { kind: 'offset', size: 100, ...(total ? { total: pathTo(total) } : {}) };
}

export function itemsOf(name: 'lists' | 'groups' | 'tags', operation: Operation | undefined) {
  if (!operation) return {};
  const { members, ...rest } = listing(operation);
  const title = memberNamed(members, NAME) ?? 'name';
  // Tags are set by their names almost everywhere.
  const id = name === 'tags' ? title : (memberNamed(members, ID) ?? title);
  return { [name]: { ...rest, id: pathTo(id), name: pathTo(title) } };
}

const FIELD_TYPES: [RegExp, DestinationFieldType][] = [
  [/mail|address/i, 'email'],
  [/bool|flag|tick|check|yes/i, 'yes/no'],
  [/num|int|figure|float|decimal|whole/i, 'number'],
  [/date|day/i, 'date'],
  [/option|choice|select|enum|pick|radio|dropdown/i, 'choice'],
  [/phone|tel|call/i, 'phone'],
];

export function fieldSource(operation: Operation): NonNullable<Profile['catalogue']['fields']> {
  const { members, ...rest } = listing(operation);
  const key = memberNamed(members, /^(key|code|slug|tag|id)$/i) ?? memberNamed(members, NAME) ?? 'key';
  const label = memberNamed(members, NAME) ?? key;
  const type = memberNamed(members, /^(type|kind|form|format|data_?type)$/i);
  const required = memberNamed(members, /^(required|must|mandatory)$/i);
  const choices = memberNamed(members, /^(options|choices|values|enum|picks)$/i);
  const longest = memberNamed(members, /^(max_?length|longest|most|length)$/i);
  const words = (type ? (members[type]?.enum ?? []) : []).filter((word): word is string => typeof word === 'string');
  const types = words.map((word): [string, DestinationFieldType] => [
    word,
    FIELD_TYPES.find(([meant]) => meant.test(word))?.[1] ?? 'text',
  ]);
  return {
    ...rest,
    key: pathTo(key),
    label: pathTo(label),
    ...(type ? { type: pathTo(type), types: Object.fromEntries(types) } : {}),
    ...(required ? { required: pathTo(required) } : {}),
    ...(choices ? { choices: `${pathTo(choices)}[*]` } : {}),
    ...(longest ? { maxLength: pathTo(longest) } : {}),
  };
}

export function verifyOf(operation: Operation): NonNullable<Profile['verify']> {
  const found = findSchema(operation.answer ?? undefined, (schema) => {
    const members = membersOf(schema);
    const name = memberNamed(members, NAME) ?? memberNamed(members, EMAIL);
    return name !== undefined && isOf(members[name] ?? {}, 'string');
  });
  const members = membersOf(found?.schema);
  const name = memberNamed(members, NAME) ?? memberNamed(members, EMAIL);
  return { request: requestOf(operation), ...(found && name ? { account: `${found.path}.${name}` } : {}) };
}

export function recordOf(person: Schema | undefined): Profile['record'] {
  const members = membersOf(person);
  const at = (meant: RegExp) => memberNamed(members, meant);
  const one = (part: string, name: string | undefined) => (name ? { [part]: pathTo(name) } : {});
  const many = (part: string, name: string | undefined) => (name ? { [part]: `${pathTo(name)}[*]` } : {});
  return {
    ...one('id', at(ID)),
    ...one('email', at(EMAIL)),
    ...one('state', at(STATE)),
    ...one('fields', at(FIELDS)),
    ...many('lists', at(LISTS)),
    ...many('groups', at(GROUPS)),
    ...many('tags', at(TAGS)),
    ...one('madeAt', at(/^(created|joined|made|added)(_?at|_?on)?$/i)),
  };
}

const TAKEN =
  /^(ok(ay)?|success(ful)?|succeeded|accepted|created|updated|changed|unchanged|done|stored|saved|added|queued)$/i;

/**
 * Where an answer of success says whether it is one: a word at its outermost that is one of taking in some cases, and another one in
 * others.
 */
export function successOf(operation: Operation | undefined): Pick<Profile, 'success'> {
  for (const [name, { enum: words = [] }] of Object.entries(membersOf(operation?.answer ?? undefined))) {
    const said = words.filter((word): word is string => typeof word === 'string');
    const is = said.filter((word) => TAKEN.test(word));
    if (is.length > 0 && is.length < said.length) return { success: { path: pathTo(name), is } };
  }
  return {};
}
