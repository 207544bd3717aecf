import type { RequestTemplate } from '../../../contract/profile/index.ts';
import type { DestinationField, DestinationFieldType } from '../../../core/mapping/index.ts';
import type { Operation } from './openApi.ts';
import { EMAIL, FIELDS, GROUPS, isOf, isProof, LISTS, membersOf, TAGS, type Schema } from './schemaWords.ts';

/**
 * A request with our own names in the place of the service's.
 * @param valueOf what a member of the body says; undefined for one that is left out
 */
export function requestOf(
  { method, path, parameters, body, encoding }: Operation,
  valueOf: (name: string, member: Schema) => unknown = valueFor,
): RequestTemplate {
  const query = parameters.filter((parameter) => parameter.in === 'query');
  const renamed = path.replace(/\{([^}]+)\}/g, (_, name: string) => `{${ourName(name)}}`);
  const idempotency = parameters.find(({ name, in: place }) => place === 'header' && /^idempotency-?key$/i.test(name));
  return {
    method,
    path: renamed + queryTemplate(query),
    ...(encoding === 'form' ? { encoding } : {}),
    ...(body && method !== 'GET' ? { body: bodyTemplate(body, valueOf) } : {}),
    ...(idempotency ? { idempotencyHeader: idempotency.name } : {}),
  };
}

const OUR_NAMES: [RegExp, string][] = [
  [EMAIL, 'email'],
  [/list|segment/i, 'list'],
  [/group/i, 'group'],
  [/tag|label/i, 'tag'],
];

/** Our name for a parameter of the service's path. */
export const ourName = (name: string): string => OUR_NAMES.find(([meant]) => meant.test(name))?.[1] ?? 'id';

/** Names that services give to the place in a list, and ours. */
export const PAGING_NAMES: Record<string, 'cursor' | 'page' | 'offset' | undefined> = {
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

function bodyTemplate(body: Schema, valueOf: (name: string, member: Schema) => unknown): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(membersOf(body)).flatMap(([name, member]): [string, unknown][] => {
      const value = valueOf(name, member);
      return value === undefined ? [] : [[name, value]];
    }),
  );
}

function valueFor(name: string, member: Schema): unknown {
  if (EMAIL.test(name)) return '$email';
  if (LISTS.test(name)) return isOf(member, 'array') ? '$lists' : '$list';
  if (GROUPS.test(name)) return isOf(member, 'array') ? '$groups' : '$group';
  if (TAGS.test(name)) return '$tags';
  if (FIELDS.test(name) && isOf(member, 'object')) return '$otherFields';
  if (isProof(name, member)) return '$proof';
  return isScalar(member) ? `$fields.${name}` : undefined;
}

const isScalar = (member: Schema) => ['string', 'number', 'integer', 'boolean'].some((type) => isOf(member, type));

/** Scalar members of the body are fields, where the service has no list of them. */
export function fieldsOfBody(operation: Operation | undefined): DestinationField[] {
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
