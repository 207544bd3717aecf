import Type, { type Static, type TProperties } from 'typebox';
import { CAUSE_NAMES } from '../../core/delivery/index.ts';
import { DESTINATION_FIELD_TYPES } from '../../core/mapping/index.ts';

/** An object that takes nothing else than its own members, so that a typing mistake in a profile is found. */
const closed = <Members extends TProperties>(members: Members, description = '') =>
  Type.Object(members, { additionalProperties: false, ...(description ? { description } : {}) });

const oneOf = <const Words extends string[]>(words: readonly [...Words], description = '') =>
  Type.Enum([...words], description ? { description } : {});

const JsonPath = Type.String({
  pattern: '^\\$',
  maxLength: 300,
  description: 'A JSONPath (RFC 9535), read against the answer, or against one item or record of it.',
});

const RequestTemplate = closed(
  {
    method: oneOf(['GET', 'POST', 'PUT', 'PATCH', 'DELETE']),
    path: Type.String({
      // Nothing that could become part of the host: a path, a query, or a template of one.
      pattern: '^(/|\\?|\\{[/?]|$)',
      maxLength: 500,
      description: 'A URI Template (RFC 6570), appended to the base URL.',
    }),
    encoding: Type.Optional(oneOf(['json', 'form', 'text'], 'How the body is sent; JSON unless said.')),
    body: Type.Optional(
      Type.Unknown({
        description:
          'The body. A text that begins with $ stands for a value ($email, $fields, $fields.name …); a member whose value is absent is left out; the member "..." spreads an object into its parent.',
      }),
    ),
    headers: Type.Optional(Type.Record(Type.String(), Type.String())),
    idempotencyHeader: Type.Optional(
      Type.String({
        description: "The header that carries the delivery's idempotency key, where the service takes one.",
      }),
    ),
  },
  'One request.',
);

const Paging = Type.Union(
  [
    closed({ kind: Type.Literal('cursor'), next: JsonPath }, 'The path has {cursor}; the answer names the next one.'),
    closed(
      {
        kind: Type.Literal('page number'),
        first: Type.Optional(Type.Integer({ minimum: 0, maximum: 1 })),
        pages: Type.Optional(JsonPath),
      },
      'The path has {page}; the answer may say how many there are.',
    ),
    closed(
      { kind: Type.Literal('offset'), size: Type.Integer({ minimum: 1 }), total: Type.Optional(JsonPath) },
      'The path has {offset} and may have {limit}.',
    ),
    closed({ kind: Type.Literal('link') }, 'The answer has a Link header (RFC 8288) with rel="next".'),
  ],
  { description: 'How a list goes on; absent when it comes whole.' },
);

const listed = { request: RequestTemplate, items: JsonPath, paging: Type.Optional(Paging) };
const FixedItem = closed({ id: Type.String(), name: Type.String() });

const ItemSource = Type.Union([
  closed({ ...listed, id: JsonPath, name: JsonPath }),
  closed({ fixed: Type.Array(FixedItem) }, 'Known beforehand.'),
]);

const DestinationFieldSchema = closed({
  key: Type.String({ minLength: 1 }),
  label: Type.String({ minLength: 1 }),
  type: oneOf(DESTINATION_FIELD_TYPES),
  required: Type.Boolean(),
  choices: Type.Array(Type.String()),
  maxLength: Type.Union([Type.Integer(), Type.Null()]),
});

const FieldSource = Type.Union([
  closed({
    ...listed,
    key: JsonPath,
    label: JsonPath,
    required: Type.Optional(JsonPath),
    type: Type.Optional(JsonPath),
    types: Type.Optional(
      Type.Record(Type.String(), oneOf(DESTINATION_FIELD_TYPES), {
        description: 'What each of its own type names means; others are text.',
      }),
    ),
    choices: Type.Optional(JsonPath),
    maxLength: Type.Optional(JsonPath),
  }),
  closed({ fixed: Type.Array(DestinationFieldSchema) }, 'Known beforehand.'),
]);

/** A path of the service, or a whole web address; never a script or another protocol. */
const WEB_PLACE = { pattern: '^(/|https?://)', maxLength: 500 };

const Authentication = Type.Union(
  [
    closed({ kind: Type.Literal('none') }),
    closed({ kind: Type.Literal('key in header'), header: Type.String(), prefix: Type.Optional(Type.String()) }),
    closed({ kind: Type.Literal('key in query'), parameter: Type.String() }),
    closed({ kind: Type.Literal('bearer') }, 'Authorization: Bearer, with the key (RFC 6750).'),
    closed({ kind: Type.Literal('user and password') }, 'HTTP Basic (RFC 7617).'),
    closed({ kind: Type.Literal('secret address') }, 'Whoever knows the base URL may send: it is the secret.'),
    closed(
      {
        kind: Type.Literal('signature'),
        keyHeader: Type.String(),
        timeHeader: Type.Optional(Type.String()),
        time: Type.Optional(oneOf(['seconds', 'milliseconds', 'ISO 8601'])),
        signatureHeader: Type.String(),
        prefix: Type.Optional(Type.String()),
        hash: oneOf(['sha256', 'sha512']),
        encoding: oneOf(['hex', 'base64']),
        canonical: Type.String({
          description:
            'What is signed (HMAC, RFC 2104), with {method}, {target} (path and query), {path}, {host}, {time}, {key}, {body} and {bodyHash} (in hex) in it.',
        }),
      },
      'Each request is signed with the secret.',
    ),
    closed(
      {
        kind: Type.Literal('OAuth, granted by a person'),
        authorize: Type.String({ ...WEB_PLACE, description: 'Path or URL of the window in which access is granted.' }),
        token: Type.String({ ...WEB_PLACE, description: 'Path or URL of the token address.' }),
        scopes: Type.Array(Type.String()),
      },
      'OAuth 2.0 authorisation code (RFC 6749) with PKCE (RFC 7636) and refresh.',
    ),
    closed(
      { kind: Type.Literal('OAuth, by client'), token: Type.String(WEB_PLACE), scopes: Type.Array(Type.String()) },
      'OAuth 2.0 client credentials (RFC 6749, 4.4).',
    ),
  ],
  { description: 'How a request says on whose behalf it comes.' },
);

const Credential = closed(
  {
    name: oneOf(['key', 'secret', 'user', 'password', 'clientId', 'clientSecret']),
    label: Type.String({ minLength: 1, maxLength: 60 }),
    help: Type.String({ maxLength: 500, description: 'Where it is found there, and what permission it needs.' }),
    shownOnce: Type.Optional(Type.Boolean()),
  },
  'One thing that the person who connects has to paste.',
);

const ErrorRule = closed({
  status: Type.Integer({ minimum: 400, maximum: 599 }),
  type: Type.Optional(Type.String({ description: "The end of a problem document's type (RFC 9457)." })),
  code: Type.Optional(
    closed({ path: JsonPath, is: Type.String() }, 'A member of the body that has to have this value.'),
  ),
  cause: oneOf(CAUSE_NAMES),
});

const operation = { request: RequestTemplate, record: Type.Optional(JsonPath) };
const Operation = closed(operation);
const Making = closed({ request: RequestTemplate, id: JsonPath });

const sizes = { maximum: 10_000 };

export const ProfileSchema = closed(
  {
    format: Type.Literal('iwashi connector profile 1'),
    id: Type.String({ pattern: '^[a-z0-9][a-z0-9-]{1,59}$' }),
    name: Type.String({ minLength: 1, maxLength: 60 }),
    purpose: Type.String({ minLength: 1, maxLength: 80, description: 'What such a service is for, in a few words.' }),
    words: Type.Array(Type.String(), { description: 'Further words by which people look for it.' }),
    speaks: oneOf(
      ['http', 'mail', 'signed webhook', 'file'],
      'http is described by this document; the others are written in code.',
    ),
    baseUrl: closed({
      label: Type.String(),
      help: Type.String(),
      preset: Type.Optional(Type.String({ description: 'For a service that has the same address for everybody.' })),
    }),
    credentials: Type.Array(Credential),
    authentication: Authentication,
    verify: Type.Optional(
      closed({
        request: RequestTemplate,
        account: Type.Optional(JsonPath),
        permissions: Type.Optional(JsonPath),
        needs: Type.Optional(Type.Array(Type.String())),
      }),
    ),
    catalogue: closed({
      lists: Type.Optional(ItemSource),
      groups: Type.Optional(ItemSource),
      tags: Type.Optional(ItemSource),
      kinds: Type.Optional(ItemSource),
      fields: Type.Optional(FieldSource),
      freeFields: Type.Optional(Type.Boolean({ description: 'Takes fields of any name: the operator says which.' })),
    }),
    calls: Type.Optional(
      closed(
        { list: Type.Optional(Type.String()), group: Type.Optional(Type.String()), kind: Type.Optional(Type.String()) },
        'What the service itself calls a list, a group, a record kind.',
      ),
    ),
    find: Type.Optional(Operation),
    write: Type.Union(
      [
        closed({ how: Type.Literal('upsert'), upsert: Operation }, 'One request makes or changes.'),
        closed(
          { how: Type.Literal('make or change'), make: Operation, change: Operation },
          'Whoever is found is changed, whoever is not is made.',
        ),
        closed({ how: Type.Literal('add'), add: Operation }, 'Every delivery adds a record; none is ever changed.'),
      ],
      { description: 'How a person or record gets there.' },
    ),
    values: Type.Optional(
      closed(
        {
          flags: Type.Optional(
            closed({
              yes: Type.Union([Type.String(), Type.Number(), Type.Boolean()]),
              no: Type.Union([Type.String(), Type.Number(), Type.Boolean()]),
            }),
          ),
          asText: Type.Optional(
            Type.Boolean({ description: 'It takes text only: figures and flags are sent as text.' }),
          ),
        },
        'How it stores values.',
      ),
    ),
    place: Type.Optional(
      closed({
        intoList: Type.Optional(RequestTemplate),
        intoGroup: Type.Optional(RequestTemplate),
        tag: Type.Optional(RequestTemplate),
      }),
    ),
    remove: Type.Optional(closed({ request: RequestTemplate }, 'Deletes a record: to clean up after a trial.')),
    make: Type.Optional(
      closed({
        list: Type.Optional(Making),
        group: Type.Optional(Making),
        tag: Type.Optional(Making),
        field: Type.Optional(Making),
      }),
    ),
    record: closed(
      {
        id: Type.Optional(JsonPath),
        email: Type.Optional(JsonPath),
        state: Type.Optional(JsonPath),
        fields: Type.Optional(JsonPath),
        lists: Type.Optional(JsonPath),
        groups: Type.Optional(JsonPath),
        tags: Type.Optional(JsonPath),
        madeAt: Type.Optional(JsonPath),
      },
      'Where the parts of a found record are.',
    ),
    errors: Type.Array(ErrorRule),
    said: Type.Optional(Type.Array(JsonPath, { description: 'Where its own words are in an error.' })),
    limits: closed({
      perSecond: Type.Optional(Type.Number({ exclusiveMinimum: 0, ...sizes })),
      burst: Type.Optional(Type.Integer({ minimum: 1, ...sizes })),
      concurrency: Type.Optional(Type.Integer({ minimum: 1, maximum: 64 })),
    }),
  },
  'What Iwashi knows about talking to a kind of service.',
);

export type Profile = Static<typeof ProfileSchema>;
export type RequestTemplate = Static<typeof RequestTemplate>;
export type Paging = Static<typeof Paging>;
export type ItemSource = Static<typeof ItemSource>;
export type FieldSource = Static<typeof FieldSource>;
export type Authentication = Profile['authentication'];
export type Credential = Static<typeof Credential>;
export type CredentialName = Credential['name'];
