import type { Authentication, Credential, Paging, Profile, RequestTemplate } from '../../../contract/profile/index.ts';
import type { OperationChoice } from '../../../contract/profiles.ts';
import type { DestinationField, DestinationFieldType } from '../../../core/mapping/index.ts';
import type { ApiDescription, Operation, SecurityScheme } from './openApi.ts';
import {
  EMAIL,
  FIELDS,
  findSchema,
  ID,
  isOf,
  memberNamed,
  membersOf,
  NAME,
  pathTo,
  type Schema,
} from './schemaWords.ts';

/** Guesses which operation does what, by methods, paths and what goes in and comes out. */
export function guessChoice({ operations }: ApiDescription): OperationChoice {
  const ending = (meant: RegExp) =>
    operations.find(
      ({ method, path }) => method === 'GET' && meant.test(path.split('/').at(-1) ?? '') && !path.includes('{'),
    );
  const lists = ending(/^(lists|audiences|segments|newsletters)$/i);
  const find = operations.find(
    (operation) =>
      answersPerson(operation) &&
      (asksForEmail(operation.parameters) || (/find|search|look/i.test(operation.path) && takesEmail(operation))),
  );
  const writes = operations.filter((operation) => takesEmail(operation) && operation !== find);
  const upsert = writes.find(({ method, summary }) => method === 'PUT' || /upsert|or (change|update)/i.test(summary));
  const make = writes.find(({ method, path }) => method === 'POST' && !path.includes('{'));
  const change = writes.find(({ method, path }) => method !== 'GET' && path.includes('{'));
  const whole = !upsert || upsert.path.includes('{') ? null : upsert;
  return {
    verify: ending(/^(account|me|whoami|self|profile|user|ping)$/i)?.id ?? '',
    lists: lists?.id ?? '',
    groups:
      operations.find(
        ({ method, path }) => method === 'GET' && lists && path.startsWith(`${lists.path}/{`) && /groups?$/.test(path),
      )?.id ?? '',
    tags: ending(/^(tags|labels)$/i)?.id ?? '',
    fields: ending(/^(fields|attributes|properties|columns|custom_?fields)$/i)?.id ?? '',
    find: find?.id ?? '',
    upsert: whole?.id ?? '',
    make: whole ? '' : (make?.id ?? ''),
    change: whole ? '' : (change?.id ?? ''),
  };
}

const asksForEmail = (parameters: Operation['parameters']) =>
  parameters.some(({ name, in: place }) => place !== 'header' && EMAIL.test(name));
const takesEmail = ({ body, method }: Operation) =>
  method !== 'GET' && memberNamed(membersOf(body ?? undefined), EMAIL) !== undefined;
const hasEmail = (schema: Schema) => memberNamed(membersOf(schema), EMAIL) !== undefined;
const answersPerson = ({ answer }: Operation) => findSchema(answer ?? undefined, hasEmail) !== null;

/** Proposes a profile: the operations that were chosen, with where things go in and come out read off their schemas. */
export function proposeProfile(api: ApiDescription, choice: OperationChoice): Profile {
  const operation = (id: string) => (id === '' ? undefined : api.operations.find((one) => one.id === id));
  const find = operation(choice.find);
  const upsert = operation(choice.upsert);
  const make = operation(choice.make);
  const change = operation(choice.change);
  const writing = upsert ?? make;
  const verify = operation(choice.verify);
  const fields = operation(choice.fields);
  const own = fieldsOfBody(writing);
  const security = authenticationOf(api.security);
  const found = findSchema((find ?? writing)?.answer ?? undefined, hasEmail);
  return {
    format: 'iwashi connector profile 1',
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
    record: recordOf(found?.schema),
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

const pathOfRecord = ({ answer }: Operation): string => findSchema(answer ?? undefined, hasEmail)?.path ?? '$';

/** A request with our own names in the place of the service's. */
function requestOf({ method, path, parameters, body, encoding }: Operation): RequestTemplate {
  const query = parameters.filter((parameter) => parameter.in === 'query');
  const renamed = path.replace(/\{([^}]+)\}/g, (_, name: string) => `{${ourName(name)}}`);
  const idempotency = parameters.find(({ name, in: place }) => place === 'header' && /^idempotency-?key$/i.test(name));
  return {
    method,
    path: renamed + queryTemplate(query),
    ...(encoding === 'form' ? { encoding } : {}),
    ...(body && method !== 'GET' ? { body: bodyTemplate(body) } : {}),
    ...(idempotency ? { idempotencyHeader: idempotency.name } : {}),
  };
}

const ourName = (name: string): string =>
  EMAIL.test(name) ? 'email' : /list|audience|segment/i.test(name) ? 'list' : /group/i.test(name) ? 'group' : 'id';

const PAGING_NAMES: Record<string, 'cursor' | 'page' | 'offset' | undefined> = {
  cursor: 'cursor',
  after: 'cursor',
  page_token: 'cursor',
  page: 'page',
  offset: 'offset',
};

/** The address and the place in a list, by the service's names. What has our name is left out while it has no value (RFC 6570, 3.2.8). */
function queryTemplate(query: Operation['parameters']): string {
  const email = query.find(({ name }) => EMAIL.test(name));
  const paging = query.flatMap(({ name }) => {
    const ours = PAGING_NAMES[name.toLowerCase()];
    return ours ? [{ name, ours }] : [];
  });
  const fixed = [
    ...(email ? [`${email.name}={email}`] : []),
    ...paging.filter(({ name, ours }) => name !== ours).map(({ name, ours }) => `${name}={${ours}}`),
  ];
  const open = paging.filter(({ name, ours }) => name === ours).map(({ ours }) => ours);
  const start = fixed.length > 0 ? `?${fixed.join('&')}` : '';
  return open.length > 0 ? `${start}{${start === '' ? '?' : '&'}${open.join(',')}}` : start;
}

function bodyTemplate(body: Schema): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(membersOf(body)).flatMap(([name, member]): [string, unknown][] => {
      const value = valueFor(name, member);
      return value === undefined ? [] : [[name, value]];
    }),
  );
}

function valueFor(name: string, member: Schema): unknown {
  if (EMAIL.test(name)) return '$email';
  if (/^lists?(_?ids?)?$/i.test(name)) return isOf(member, 'array') ? '$lists' : '$list';
  if (/^groups?(_?ids?)?$/i.test(name)) return isOf(member, 'array') ? '$groups' : '$group';
  if (/^(tags|labels)$/i.test(name)) return '$tags';
  if (FIELDS.test(name) && isOf(member, 'object')) return '$otherFields';
  return isScalar(member) ? `$fields.${name}` : undefined;
}

const isScalar = (member: Schema) => ['string', 'number', 'integer', 'boolean'].some((type) => isOf(member, type));

/** Scalar members of the body are fields, where the service has no list of them. */
function fieldsOfBody(operation: Operation | undefined): DestinationField[] {
  const body = operation?.body ?? undefined;
  return Object.entries(membersOf(body)).flatMap(([key, member]): DestinationField[] => {
    const value = valueFor(key, member);
    if (value !== '$email' && value !== `$fields.${key}`) return [];
    return [
      {
        key,
        label: key.replace(/[_-]+/g, ' ').replace(/^./, (letter) => letter.toUpperCase()),
        type: value === '$email' ? 'email' : typeOf(member),
        required: value === '$email' || (body?.required ?? []).includes(key),
        choices: (member.enum ?? []).filter((choice): choice is string => typeof choice === 'string'),
        maxLength: member.maxLength ?? null,
      },
    ];
  });
}

function typeOf(member: Schema): DestinationFieldType {
  if (member.enum) return 'choice';
  if (isOf(member, 'boolean')) return 'yes/no';
  return isOf(member, 'number') || isOf(member, 'integer') ? 'number' : 'text';
}

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

function itemsOf(name: 'lists' | 'groups' | 'tags', operation: Operation | undefined) {
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

function fieldSource(operation: Operation): NonNullable<Profile['catalogue']['fields']> {
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

function verifyOf(operation: Operation): NonNullable<Profile['verify']> {
  const found = findSchema(operation.answer ?? undefined, (schema) => {
    const members = membersOf(schema);
    const name = memberNamed(members, NAME) ?? memberNamed(members, EMAIL);
    return name !== undefined && isOf(members[name] ?? {}, 'string');
  });
  const members = membersOf(found?.schema);
  const name = memberNamed(members, NAME) ?? memberNamed(members, EMAIL);
  return { request: requestOf(operation), ...(found && name ? { account: `${found.path}.${name}` } : {}) };
}

function recordOf(person: Schema | undefined): Profile['record'] {
  const members = membersOf(person);
  const at = (meant: RegExp) => memberNamed(members, meant);
  const one = (part: string, name: string | undefined) => (name ? { [part]: pathTo(name) } : {});
  const many = (part: string, name: string | undefined) => (name ? { [part]: `${pathTo(name)}[*]` } : {});
  return {
    ...one('id', at(ID)),
    ...one('email', at(EMAIL)),
    ...one('state', at(/^(state|status)$/i)),
    ...one('fields', at(FIELDS)),
    ...many('lists', at(/^lists?(_?ids?)?$/i)),
    ...many('groups', at(/^groups?(_?ids?)?$/i)),
    ...many('tags', at(/^(tags|labels)$/i)),
    ...one('madeAt', at(/^(created|joined|made|added)(_?at|_?on)?$/i)),
  };
}

/** Authentication and what has to be pasted for it; the first scheme that Iwashi knows. */
export function authenticationOf(schemes: SecurityScheme[]): {
  authentication: Authentication;
  credentials: Credential[];
} {
  for (const scheme of schemes) {
    const known = knownScheme(scheme);
    if (known) return known;
  }
  return { authentication: { kind: 'none' }, credentials: [] };
}

const HELP = 'Where the service shows its keys, usually under account or settings. Make one for Iwashi alone.';
const credential = (name: Credential['name'], label: string): Credential => ({ name, label, help: HELP });
const key = credential('key', 'API key');
const client = [credential('clientId', 'Client id'), credential('clientSecret', 'Client secret')];

function knownScheme({ type, in: place, name = '', scheme = '', flows = {} }: SecurityScheme) {
  if (type === 'apiKey' && place === 'header')
    return { authentication: { kind: 'key in header' as const, header: name }, credentials: [key] };
  if (type === 'apiKey' && place === 'query')
    return { authentication: { kind: 'key in query' as const, parameter: name }, credentials: [key] };
  if (type === 'http' && scheme.toLowerCase() === 'bearer')
    return { authentication: { kind: 'bearer' as const }, credentials: [key] };
  if (type === 'http' && scheme.toLowerCase() === 'basic')
    return {
      authentication: { kind: 'user and password' as const },
      credentials: [credential('user', 'User name'), credential('password', 'Password')],
    };
  const { authorizationCode, clientCredentials } = flows;
  if (type === 'oauth2' && authorizationCode)
    return {
      authentication: {
        kind: 'OAuth, granted by a person' as const,
        authorize: authorizationCode.authorizationUrl ?? '',
        token: authorizationCode.tokenUrl ?? '',
        scopes: Object.keys(authorizationCode.scopes ?? {}),
      },
      credentials: client,
    };
  if (type === 'oauth2' && clientCredentials)
    return {
      authentication: {
        kind: 'OAuth, by client' as const,
        token: clientCredentials.tokenUrl ?? '',
        scopes: Object.keys(clientCredentials.scopes ?? {}),
      },
      credentials: client,
    };
  return null;
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
