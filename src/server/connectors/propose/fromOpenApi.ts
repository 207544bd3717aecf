import { PROFILE_FORMAT, PROFILE_WHAT, type Profile } from '../../../contract/profile/index.ts';
import type { OperationChoice } from '../../../contract/profiles.ts';
import { fieldSource, itemsOf, pathOfRecord, recordOf, successOf, verifyOf } from './answers.ts';
import { answersPerson } from './guess.ts';
import type { ApiDescription, Operation } from './openApi.ts';
import { makingOf, placesOf, subscriptionOf } from './membership.ts';
import { fieldsOfBody, requestOf } from './requests.ts';
import { findSchema, hasEmail } from './schemaWords.ts';
import { authenticationOf } from './security.ts';

/** Proposes a profile: the operations that were chosen, with where things go in and come out read off their schemas. */
export function proposeProfile(api: ApiDescription, choice: OperationChoice): Profile {
  const operation = (id: string | undefined) =>
    id === undefined || id === '' ? undefined : api.operations.find((one) => one.id === id);
  const chosen = (role: keyof OperationChoice) => operation(choice[role]);
  const find = operation(choice.find);
  const upsert = operation(choice.upsert);
  const make = operation(choice.make);
  const change = operation(choice.change);
  const writing = upsert ?? make;
  const verify = operation(choice.verify);
  const removing = operation(choice.remove);
  const fields = operation(choice.fields);
  const own = fieldsOfBody(writing);
  const security = authenticationOf(api.security);
  const found = findSchema((find ?? writing)?.answer ?? undefined, hasEmail);
  return {
    what: PROFILE_WHAT,
    format: PROFILE_FORMAT,
    id: idFrom(api.title),
    name: api.title.slice(0, 60) || 'Own service',
    purpose: api.about.split('\n')[0]?.slice(0, 80) || 'a service of your own',
    words: [],
    speaks: 'http',
    baseUrl: {
      label: 'Base URL',
      help: 'As its description says, or as your account shows it.',
      ...(/^https?:/.test(api.server) ? { preset: api.server } : {}),
    },
    ...security,
    ...(verify ? { verify: verifyOf(verify) } : {}),
    catalogue: {
      ...itemsOf('lists', operation(choice.lists)),
      ...itemsOf('groups', operation(choice.groups)),
      ...itemsOf('tags', operation(choice.tags)),
      ...(fields ? { fields: fieldSource(fields) } : { fields: { fixed: own } }),
    },
    ...(find && found ? { find: { request: requestOf(find), record: pathOfRecord(find) } } : {}),
    write: writeOf({ upsert, make, change, find }),
    ...placesOf(chosen),
    ...subscriptionOf(chosen, found?.schema),
    ...makingOf(chosen),
    ...(removing ? { remove: { request: requestOf(removing) } } : {}),
    record: recordOf(found?.schema),
    ...successOf(writing),
    errors: [],
    limits: {},
  };
}

function writeOf({
  upsert,
  make,
  change,
  find,
}: Record<'upsert' | 'make' | 'change' | 'find', Operation | undefined>): Profile['write'] {
  const withRecord = (operation: Operation) => ({
    request: requestOf(operation),
    ...(answersPerson(operation) ? { record: pathOfRecord(operation) } : {}),
  });
  if (upsert) return { how: 'upsert', upsert: withRecord(upsert) };
  if (make && change && find) return { how: 'make or change', make: withRecord(make), change: withRecord(change) };
  if (make) return { how: 'add', add: withRecord(make) };
  return { how: 'add', add: { request: { method: 'POST', path: '/', body: { email: '$email' } } } };
}

/** An id that no other profile is likely to have. */
export const idFrom = (title: string): string =>
  `own-${
    title
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 50) || 'service'
  }`;
