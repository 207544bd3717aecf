import Type, { type Static } from 'typebox';
import { ANSWER_CAUSES, STANDINGS } from '../../core/delivery/index.ts';
import { DESTINATION_FIELD_TYPES } from '../../core/mapping/index.ts';
import { Authentication, Credential } from './authentication.ts';
import { closed, JsonPath, oneOf, Paging, RequestTemplate } from './requests.ts';
import { Shop } from './shop.ts';
import { Webhooks } from './webhooks.ts';

const listed = { request: RequestTemplate, items: JsonPath, paging: Type.Optional(Paging) };
const FixedItem = closed({ id: Type.String(), name: Type.String() });

const ItemSource = Type.Union([
  closed({
    ...listed,
    id: JsonPath,
    name: JsonPath,
    repeats: Type.Optional(
      Type.String({
        pattern: '^\\$',
        maxLength: 300,
        description: 'Of a kind of record: a JSONPath to true where each is a thing of its own, such as an enquiry.',
      }),
    ),
    confirms: Type.Optional(
      Type.String({
        pattern: '^\\$',
        maxLength: 300,
        description: 'Of a list: a JSONPath to true where it asks people itself to confirm.',
      }),
    ),
    asksProven: Type.Optional(
      Type.Boolean({
        description:
          'Of lists that ask people to confirm: false where those whose proof is sent with them, as $proof, are not asked.',
      }),
    ),
  }),
  closed({ fixed: Type.Array(FixedItem) }, 'Known beforehand.'),
]);

const DestinationFieldSchema = closed({
  key: Type.String({ minLength: 1 }),
  label: Type.String({ minLength: 1 }),
  type: oneOf(DESTINATION_FIELD_TYPES),
  required: Type.Boolean(),
  choices: Type.Array(Type.String()),
  maxLength: Type.Union([Type.Integer(), Type.Null()]),
  ours: Type.Optional(
    Type.Boolean({ description: "The operator's own, such as a sender: never filled with what visitors say." }),
  ),
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

const ErrorRule = closed({
  status: Type.Integer({
    minimum: 200,
    maximum: 599,
    description: 'One of success has to have a code beside it: some services refuse in an answer of success.',
  }),
  type: Type.Optional(Type.String({ description: "The end of a problem document's type (RFC 9457)." })),
  code: Type.Optional(
    closed({ path: JsonPath, is: Type.String() }, 'A member of the body that has to have this value.'),
  ),
  cause: oneOf(ANSWER_CAUSES),
});

const Success = closed(
  {
    path: JsonPath,
    is: Type.Array(Type.String(), { minItems: 1, description: 'What stands there, as text, where it was a success.' }),
  },
  'How its answers of success say so, for a service that refuses in them too. Without it the usual signs are read: error, errors, success, ok.',
);

const operation = { request: RequestTemplate, record: Type.Optional(JsonPath) };
const Operation = closed(operation);
const proves = Type.Optional(
  Type.Boolean({
    description:
      'Whether the record in the answer is what is held after the write, whole, so that it proves what arrived. One in sixteen is asked for again all the same.',
  }),
);
const keeps = Type.Optional(
  Type.Boolean({
    description:
      'Whether lists, groups and tags that are not sent stay as they are. Else a PUT or PATCH is taken to replace the whole: somebody looks first, and what is held is sent along.',
  }),
);
const Writing = closed({ ...operation, proves, keeps });
const Making = closed({ request: RequestTemplate, id: JsonPath });
const FieldMaking = closed({
  request: RequestTemplate,
  id: JsonPath,
  types: Type.Optional(
    Type.Record(Type.String(), Type.String(), {
      description:
        'By our types, what the service calls a field of that type; the request has it as $type, and the choices of one as $choices (a list) and $choiceLines (a line each). A type that is not here is made as text.',
    }),
  ),
});

const Batch = closed(
  {
    size: Type.Integer({ minimum: 2, maximum: 1000, description: 'How many people one request takes.' }),
    write: closed({
      request: RequestTemplate,
      each: Type.Unknown({ description: 'What stands for each person; the request has all of them as $people.' }),
      results: JsonPath,
      email: Type.Optional(
        Type.String({
          pattern: '^\\$',
          description: 'The address in a result; without it they come in the order sent.',
        }),
      ),
      status: JsonPath,
      record: Type.Optional(JsonPath),
      proves,
    }),
    find: Type.Optional(
      closed({ request: RequestTemplate, records: JsonPath }, 'The request has all addresses as $emails.'),
    ),
  },
  'Several people in one request, each with an outcome of its own.',
);

const sizes = { maximum: 10_000 };

/** What a profile says that it is, and the format that is written today. */
export const PROFILE_WHAT = 'iwashi connector profile';
export const PROFILE_FORMAT = 2;

export const ProfileSchema = closed(
  {
    what: Type.Literal(PROFILE_WHAT),
    format: Type.Literal(PROFILE_FORMAT),
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
        closed({ how: Type.Literal('upsert'), upsert: Writing }, 'One request makes or changes.'),
        closed(
          { how: Type.Literal('make or change'), make: Writing, change: Writing },
          'Whoever is found is changed, whoever is not is made.',
        ),
        closed({ how: Type.Literal('add'), add: Writing }, 'Every delivery adds a record; none is ever changed.'),
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
        outOfList: Type.Optional(RequestTemplate),
        intoGroup: Type.Optional(RequestTemplate),
        outOfGroup: Type.Optional(RequestTemplate),
        tag: Type.Optional(RequestTemplate),
        untag: Type.Optional(RequestTemplate),
      }),
    ),
    subscription: Type.Optional(
      closed(
        {
          means: Type.Record(Type.String(), oneOf(STANDINGS), {
            description: "What each of its own words for a person's state means.",
          }),
          unsubscribe: Type.Optional(RequestTemplate),
          subscribe: Type.Optional(RequestTemplate),
        },
        'Whether a found person gets its mail, and how that is changed.',
      ),
    ),
    batch: Type.Optional(Batch),
    webhooks: Type.Optional(Webhooks),
    shop: Type.Optional(Shop),
    remove: Type.Optional(closed({ request: RequestTemplate }, 'Deletes a record: to clean up after a trial.')),
    make: Type.Optional(
      closed({
        list: Type.Optional(Making),
        group: Type.Optional(Making),
        tag: Type.Optional(Making),
        field: Type.Optional(FieldMaking),
      }),
    ),
    record: closed(
      {
        id: Type.Optional(JsonPath),
        email: Type.Optional(JsonPath),
        state: Type.Optional(JsonPath),
        states: Type.Optional(
          Type.Partial(closed({ sms: JsonPath, phone: JsonPath, post: JsonPath }), {
            description:
              'Where it says how somebody stands by other channels than email, in the words of `subscription`.',
          }),
        ),
        fields: Type.Optional(JsonPath),
        lists: Type.Optional(JsonPath),
        groups: Type.Optional(JsonPath),
        tags: Type.Optional(JsonPath),
        madeAt: Type.Optional(JsonPath),
      },
      'Where the parts of a found record are.',
    ),
    success: Type.Optional(Success),
    errors: Type.Array(ErrorRule),
    said: Type.Optional(Type.Array(JsonPath, { description: 'Where its own words are in an error.' })),
    limits: closed({
      perSecond: Type.Optional(Type.Number({ exclusiveMinimum: 0, ...sizes })),
      burst: Type.Optional(Type.Integer({ minimum: 1, ...sizes })),
      concurrency: Type.Optional(Type.Integer({ minimum: 1, maximum: 64 })),
      shownAfterSeconds: Type.Optional(
        Type.Number({
          minimum: 0,
          maximum: 3600,
          description:
            'How long a new record may take to be found. Until then nothing is made a second time; 30 unless said.',
        }),
      ),
    }),
  },
  'What Iwashi knows about talking to a kind of service.',
);

export type Profile = Static<typeof ProfileSchema>;
export type ItemSource = Static<typeof ItemSource>;
export type FieldSource = Static<typeof FieldSource>;
