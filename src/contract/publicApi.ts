import Type from 'typebox';
import { COUNTED, DIMENSIONS } from '../core/insight/index.ts';
import { ARRIVED, CAUSE_NAMES, DELIVERY_STATES, PROVED_BY } from '../core/delivery/index.ts';
import { BULK_ACTS, BulkInput, DropInput } from './deliveries.ts';
import { DEVICES, PROGRESS } from './submissions.ts';
import type { Scope } from './tokens.ts';

const time = (description: string) => Type.String({ format: 'date-time', description });
const orNull = <S extends Type.TSchema>(schema: S) => Type.Union([schema, Type.Null()]);
const pageOf = <Row extends Type.TSchema>(row: Row) =>
  Type.Object({
    rows: Type.Array(row),
    next: orNull(Type.String({ description: 'Give it as `before` to get the next page; null at the end.' })),
    looked: Type.Optional(
      Type.Integer({
        description: 'How many were looked at for this page, where that was not all; the next one looks further.',
      }),
    ),
  });

const Status = Type.Object({
  database: Type.Enum(['up', 'down']),
  workers: Type.Integer(),
  waiting: Type.Integer(),
  held: Type.Integer(),
  lastDeliveryAt: orNull(time('')),
  at: time(''),
});

const Submission = Type.Object({
  id: Type.String(),
  receivedAt: time('When it was accepted.'),
  sourceName: Type.String(),
  email: Type.String({ description: "'' for people who gave none." }),
  phone: Type.String({ description: 'In E.164; empty for people who gave none.' }),
  name: Type.String(),
  progress: Type.Enum([...PROGRESS], { description: 'How far it has come, all its deliveries taken together.' }),
  arrived: orNull(
    Type.Enum([...ARRIVED], {
      description:
        'Where it is delivered, how that is known: shown there, accepted by a service that cannot be asked, or sent by mail alone.',
    }),
  ),
  repeats: Type.Integer({ description: 'How often the same request came once more.' }),
});

const ReadBackRow = Type.Object({
  what: Type.String(),
  meant: Type.String(),
  found: Type.String(),
  same: Type.Boolean(),
});

const Delivery = Type.Object({
  id: Type.String(),
  submissionId: Type.String(),
  email: Type.String(),
  connectionId: Type.String(),
  connectionName: Type.String(),
  routeId: Type.String(),
  routeName: Type.String(),
  routeVersion: Type.Integer(),
  state: Type.Enum([...DELIVERY_STATES]),
  cause: orNull(Type.Enum([...CAUSE_NAMES])),
  causeDetail: Type.String(),
  sentence: Type.String({ description: 'The cause in a sentence.' }),
  nextStep: Type.String(),
  plannedAt: time(''),
  dueAt: orNull(time('When it is tried again.')),
  deliveredAt: orNull(time('')),
  endedAt: orNull(time('When it was delivered, held or dropped.')),
  leftOut: Type.Array(Type.String()),
  readBack: orNull(Type.Array(ReadBackRow)),
  provedBy: orNull(
    Type.Enum([...PROVED_BY], {
      description: 'By a look there, by the answer to the write, or by a person who looked; null where none is known.',
    }),
  ),
  behind: orNull(Type.String({ description: 'The submission whose delivery has to end first.' })),
});

const HeldGroup = Type.Object({
  cause: Type.Enum([...CAUSE_NAMES]),
  connectionId: Type.String(),
  connectionName: Type.String(),
  count: Type.Integer(),
  detail: Type.String(),
});

const Bulk = Type.Object({
  done: Type.Integer(),
  stayed: Type.Array(Type.Object({ id: Type.String(), email: Type.String(), why: Type.String() })),
  next: orNull(Type.String()),
});

const Connection = Type.Object({
  id: Type.String(),
  profile: Type.String(),
  serviceName: Type.String(),
  name: Type.String(),
  state: Type.Enum(['active', 'paused', 'refused', 'ungranted']),
  lastSuccessAt: orNull(time('')),
  waiting: Type.Integer(),
  held: Type.Integer(),
});

export const Problem = Type.Object(
  {
    type: Type.String(),
    title: Type.String(),
    status: Type.Integer(),
    errors: Type.Optional(Type.Array(Type.Object({ pointer: Type.String(), detail: Type.String() }))),
  },
  { description: 'A problem document (RFC 9457).' },
);

/** One address of the API that others may call with a token. */
export interface PublicOperation {
  method: 'get' | 'post';
  path: string;
  summary: string;
  scope: Scope;
  query?: Record<string, string>;
  /** The contract class that the body is checked against. */
  body?: new () => object;
  answer: Type.TSchema;
}

const before = { before: 'Where the page starts; absent for the newest.' };
const act = (what: string, summary: string, done: string, body?: new () => object): PublicOperation => ({
  method: 'post',
  path: `/deliveries/{id}/${what}`,
  summary,
  scope: 'deliveries:act',
  answer: Type.Object({ [done]: Type.Literal(true) }),
  ...(body ? { body } : {}),
});

/** Everything that a token can reach: the description, the check of scopes and the tests are made from this list. */
export const PUBLIC_API: PublicOperation[] = [
  { method: 'get', path: '/status', summary: 'Whether all is well', scope: 'status:read', answer: Status },
  {
    method: 'get',
    path: '/submissions',
    summary: 'Submissions, newest first',
    scope: 'submissions:read',
    query: {
      ...before,
      source: 'Of one source.',
      progress: PROGRESS.join(', '),
      text: 'Part of an address or a name.',
      page: 'The beginning of the address of the page it came from.',
      campaign: 'Of one campaign (utm_campaign).',
      device: DEVICES.join(', '),
      placement: 'Of one placement.',
      notices: 'with, without: whether what services tell us of people is among them.',
      from: 'Came at this moment or later, in milliseconds since 1970.',
      to: 'Came before this moment, in milliseconds since 1970.',
      reached: `Was counted as this: ${COUNTED.join(', ')}.`,
      by: `With "reached": counted by this, ${DIMENSIONS.join(', ')}.`,
      value: 'With "by": and there had this value.',
    },
    answer: pageOf(Submission),
  },
  {
    method: 'get',
    path: '/deliveries',
    summary: 'Deliveries, newest first',
    scope: 'deliveries:read',
    query: {
      ...before,
      state: DELIVERY_STATES.join(', '),
      cause: 'For one cause.',
      connection: 'At one connection.',
      route: 'By one route.',
      text: 'Part of an address or a name.',
    },
    answer: pageOf(Delivery),
  },
  {
    method: 'get',
    path: '/deliveries/held',
    summary: 'What is held, grouped by cause and connection',
    scope: 'deliveries:read',
    answer: Type.Array(HeldGroup),
  },
  {
    method: 'post',
    path: '/deliveries/held',
    summary: `One thing for all that is held for one cause at one connection: ${BULK_ACTS.join(', ')}`,
    scope: 'deliveries:act',
    body: BulkInput,
    answer: Bulk,
  },
  act('retry', 'Try a held delivery again as it was planned', 'queued'),
  act('replan', 'Try it with what its route makes of it now', 'queued'),
  act('arrived', 'Say that it had arrived', 'delivered'),
  act('drop', 'Drop it, with a reason', 'dropped', DropInput),
  {
    method: 'get',
    path: '/connections',
    summary: 'The connections, without their credentials',
    scope: 'connections:read',
    answer: Type.Array(Connection),
  },
  ...(['verify', 'pause', 'resume'] as const).map((what): PublicOperation => ({
    method: 'post',
    path: `/connections/{id}/${what}`,
    summary: { verify: 'Verify a connection', pause: 'Pause it', resume: 'Let it go on' }[what],
    scope: 'connections:act',
    answer: Connection,
  })),
];
