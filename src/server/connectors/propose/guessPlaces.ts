import type { OperationChoice } from '../../../contract/profiles.ts';
import type { Operation } from './openApi.ts';
import { ourName, requestOf } from './requests.ts';
import { EMAIL, TAGS } from './schemaWords.ts';

type PlaceRole = 'intoList' | 'intoGroup' | 'tag' | 'outOfList' | 'outOfGroup' | 'untag';
type PlaceKind = 'list' | 'group' | 'tag';

/** What services call the places that people are in, in paths. */
export const PLACE_WORDS: Record<PlaceKind, RegExp> = {
  list: /^(lists|segments|newsletters)$/i,
  group: /^groups$/i,
  tag: TAGS,
};
const PEOPLE = /^(members|people|persons|contacts|subscribers|customers)$/i;

/** Guesses how people are put into places and taken out again, where writing a person does not do it too. */
export function guessPlaces(operations: Operation[], writing: Operation | undefined): Pick<OperationChoice, PlaceRole> {
  const written = writing ? JSON.stringify(requestOf(writing)) : '';
  const into = (kind: PlaceKind): string => {
    if (new RegExp(`\\$${kind}s?"|\\{${kind}\\}`).test(written)) return '';
    const fits = ({ method, path, id }: Operation) =>
      (method === 'POST' || method === 'PUT') && id !== writing?.id && joins(path, kind);
    return operations.find(fits)?.id ?? '';
  };
  const outOf = (kind: PlaceKind): string =>
    operations.find(({ method, path }) => method === 'DELETE' && joins(path, kind) && path.endsWith('}'))?.id ?? '';
  return {
    intoList: into('list'),
    intoGroup: into('group'),
    tag: into('tag'),
    outOfList: outOf('list'),
    outOfGroup: outOf('group'),
    untag: outOf('tag'),
  };
}

/** Whether a path names one person and one place: the person in the place, or the place of the person; the last may stand in the body. */
function joins(path: string, kind: PlaceKind): boolean {
  const steps = path.split('/').reverse();
  const [last = ''] = steps;
  const [inner = '', outerId = '', outer = ''] = isParameter(last) ? steps.slice(1) : steps;
  if (!isParameter(outerId)) return false;
  const [places, people] = [PLACE_WORDS[kind], PEOPLE];
  return (places.test(inner) && people.test(outer)) || (people.test(inner) && places.test(outer));
}

const isParameter = (step: string): boolean => step.startsWith('{');

/** Whether all that a path leaves open are places. */
export const namesPlacesOnly = (path: string): boolean =>
  [...path.matchAll(/\{([^}]+)\}/g)].every(([, name = '']) => ['list', 'group'].includes(ourName(name)));

/** Guesses what deletes a person. */
export const guessRemoval = (operations: Operation[]): string =>
  operations.find(({ method, path }) => {
    const [last = '', people = ''] = path.split('/').reverse();
    return method === 'DELETE' && isParameter(last) && PEOPLE.test(people);
  })?.id ?? '';

/** Guesses what ends a person's subscription, and what begins it anew. */
export function guessStanding(operations: Operation[]): Pick<OperationChoice, 'unsubscribe' | 'subscribe'> {
  const ending = (meant: RegExp) =>
    operations.find(({ method, path, body, parameters }) => {
      const asks = path.includes('{') || parameters.some(({ name }) => EMAIL.test(name)) || body !== null;
      return method !== 'GET' && asks && meant.test(path.split('/').at(-1) ?? '');
    })?.id ?? '';
  return {
    unsubscribe: ending(/^(un-?subscribe|leave|opt-?out|unsubscription)$/i),
    subscribe: ending(/^(re-?subscribe|subscribe|return|opt-?in|rejoin)$/i),
  };
}

/** Guesses how what is missing there is made: by a POST to where it is listed. */
export function guessMaking(
  operations: Operation[],
  { lists, groups, tags, fields }: Pick<OperationChoice, 'lists' | 'groups' | 'tags' | 'fields'>,
): Pick<OperationChoice, 'makeList' | 'makeGroup' | 'makeTag' | 'makeField'> {
  const makingFor = (listing: string): string => {
    const path = operations.find(({ id }) => id === listing)?.path;
    return operations.find((one) => one.method === 'POST' && one.path === path)?.id ?? '';
  };
  return {
    makeList: makingFor(lists),
    makeGroup: makingFor(groups),
    makeTag: makingFor(tags),
    makeField: makingFor(fields),
  };
}
