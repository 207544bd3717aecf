import type { OperationChoice } from '../../../contract/profiles.ts';
import { guessMaking, guessPlaces, guessRemoval, guessStanding, namesPlacesOnly, PLACE_WORDS } from './guessPlaces.ts';
import type { ApiDescription, Operation } from './openApi.ts';
import { EMAIL, findSchema, hasEmail, memberNamed, membersOf } from './schemaWords.ts';

/** Guesses which operation does what, by methods, paths and what goes in and comes out. */
export function guessChoice({ operations }: ApiDescription): OperationChoice {
  const ending = (meant: RegExp) =>
    operations.find(
      ({ method, path }) => method === 'GET' && meant.test(path.split('/').at(-1) ?? '') && !path.includes('{'),
    );
  const lists = ending(PLACE_WORDS.list);
  const find = operations.find(
    (operation) =>
      answersPerson(operation) &&
      (asksForEmail(operation.parameters) || (/find|search|look/i.test(operation.path) && takesEmail(operation))),
  );
  const writes = operations.filter((operation) => takesEmail(operation) && operation !== find);
  const upsert = writes.find(({ method, summary }) => method === 'PUT' || /upsert|or (change|update)/i.test(summary));
  const make =
    writes.find(({ method, path }) => method === 'POST' && !path.includes('{')) ??
    writes.find(({ method, path }) => method === 'POST' && namesPlacesOnly(path));
  const change = writes.find(({ path }) => path.includes('{') && !namesPlacesOnly(path));
  const whole = !upsert || (upsert.path.includes('{') && !namesPlacesOnly(upsert.path)) ? null : upsert;
  const offered = {
    verify: ending(/^(account|me|whoami|self|profile|user|ping)$/i)?.id ?? '',
    lists: lists?.id ?? '',
    groups:
      operations.find(
        ({ method, path }) => method === 'GET' && lists && path.startsWith(`${lists.path}/{`) && /groups?$/.test(path),
      )?.id ?? '',
    tags: ending(PLACE_WORDS.tag)?.id ?? '',
    fields: ending(/^(fields|attributes|properties|columns|custom_?fields)$/i)?.id ?? '',
  };
  return {
    ...offered,
    find: find?.id ?? '',
    upsert: whole?.id ?? '',
    make: whole ? '' : (make?.id ?? ''),
    change: whole ? '' : (change?.id ?? ''),
    ...guessPlaces(operations, whole ?? make),
    ...guessStanding(operations),
    ...guessMaking(operations, offered),
    remove: guessRemoval(operations),
  };
}

const asksForEmail = (parameters: Operation['parameters']) =>
  parameters.some(({ name, in: place }) => place !== 'header' && EMAIL.test(name));
const takesEmail = ({ body, method }: Operation) =>
  method !== 'GET' && memberNamed(membersOf(body ?? undefined), EMAIL) !== undefined;
export const answersPerson = ({ answer }: Operation) => findSchema(answer ?? undefined, hasEmail) !== null;
