import type { Profile } from '../../../contract/profile/index.ts';
import type { OperationChoice } from '../../../contract/profiles.ts';
import type { Standing } from '../../../core/delivery/index.ts';
import type { Operation } from './openApi.ts';
import { requestOf } from './requests.ts';
import {
  EMAIL,
  findSchema,
  GROUPS,
  ID,
  isOf,
  isProof,
  LISTS,
  memberNamed,
  membersOf,
  NAME,
  pathTo,
  STATE,
  type Schema,
} from './schemaWords.ts';

type Chosen = (role: keyof OperationChoice) => Operation | undefined;

/** How people are put into places, and taken out of them again. */
export function placesOf(operation: Chosen): Pick<Profile, 'place'> {
  const part = (role: keyof NonNullable<Profile['place']>) => {
    const found = operation(role);
    return found ? { [role]: requestOf(found, placeValue) } : {};
  };
  const place = {
    ...part('intoList'),
    ...part('outOfList'),
    ...part('intoGroup'),
    ...part('outOfGroup'),
    ...part('tag'),
    ...part('untag'),
  };
  return Object.keys(place).length > 0 ? { place } : {};
}

/** What a body that joins one person and one place says. */
function placeValue(name: string, member: Schema): unknown {
  const one = (value: string) => (isOf(member, 'array') ? [value] : value);
  if (EMAIL.test(name)) return one('$email');
  if (/^(lists?|segments?)(_?ids?)?$/i.test(name)) return one('$list');
  if (GROUPS.test(name)) return one('$group');
  if (/^(tags?|labels?)(_?(names?|ids?))?$/i.test(name) || name === 'name') return one('$tag');
  return /^((member|person|contact|subscriber|customer)_?ids?|id)$/i.test(name) ? one('$id') : undefined;
}

/** Whether a person gets its mail, as its own words say, and how that is changed. */
export function subscriptionOf(operation: Chosen, person: Schema | undefined): Pick<Profile, 'subscription'> {
  const members = membersOf(person);
  const state = memberNamed(members, STATE);
  const words = (state ? (members[state]?.enum ?? []) : []).filter((word): word is string => typeof word === 'string');
  const means = Object.fromEntries(
    words.flatMap((word) => {
      const standing = meaningOf(word);
      return standing ? [[word, standing]] : [];
    }),
  );
  const [unsubscribe, subscribe] = [operation('unsubscribe'), operation('subscribe')];
  if (Object.keys(means).length === 0 && !unsubscribe && !subscribe) return {};
  return {
    subscription: {
      means,
      ...(unsubscribe ? { unsubscribe: requestOf(unsubscribe, standingValue) } : {}),
      ...(subscribe ? { subscribe: requestOf(subscribe, standingValue) } : {}),
    },
  };
}

const MEANINGS: [RegExp, Standing][] = [
  [/bounc|block|suppress|refus|complain|spam|invalid/i, 'suppressed'],
  [/pending|unconfirmed|waiting|awaiting/i, 'unconfirmed'],
  [/^(left|un-?subscribed|inactive|removed|opted[_ -]?out|cancelled)$/i, 'unsubscribed'],
  [/^(active|subscribed|confirmed|enabled|opted[_ -]?in)$/i, 'subscribed'],
];

const meaningOf = (word: string): Standing | undefined => MEANINGS.find(([meant]) => meant.test(word))?.[1];

function standingValue(name: string, member: Schema): unknown {
  if (EMAIL.test(name)) return '$email';
  if (LISTS.test(name)) return isOf(member, 'array') ? '$lists' : '$list';
  return isProof(name, member) ? '$proof' : undefined;
}

/** How lists, groups, tags and fields that are missing there are made. */
export function makingOf(operation: Chosen): Pick<Profile, 'make'> {
  const part = (what: keyof NonNullable<Profile['make']>, role: keyof OperationChoice) => {
    const found = operation(role);
    const id = found && idIn(found, what);
    return found && id ? { [what]: { request: requestOf(found, makingValue), id } } : {};
  };
  const make = {
    ...part('list', 'makeList'),
    ...part('group', 'makeGroup'),
    ...part('tag', 'makeTag'),
    ...part('field', 'makeField'),
  };
  return Object.keys(make).length > 0 ? { make } : {};
}

function makingValue(name: string): unknown {
  if (NAME.test(name)) return '$name';
  return /^lists?(_?id)?$/i.test(name) ? '$list' : undefined;
}

/** Where the answer says under what it is known from now on: tags go by their names almost everywhere. */
function idIn({ answer }: Operation, what: string): string | null {
  const meant = what === 'tag' ? [NAME, ID] : what === 'field' ? [/^(key|code|slug)$/i, ID] : [ID];
  for (const name of meant) {
    const found = findSchema(answer ?? undefined, (schema) => memberNamed(membersOf(schema), name) !== undefined);
    const member = found && memberNamed(membersOf(found.schema), name);
    if (found && member) return `${found.path}${pathTo(member).slice(1)}`;
  }
  return null;
}
