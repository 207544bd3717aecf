import Type, { type Static } from 'typebox';
import { SHOP_EVENTS } from '../../core/intake/index.ts';
import { FIELD_TYPES } from '../../core/values/index.ts';
import { CHANNELS } from '../../core/consent/index.ts';
import { closed, JsonPath, oneOf, Paging, RequestTemplate } from './requests.ts';

const listed = { request: RequestTemplate, items: JsonPath, paging: Type.Optional(Paging) };

export const Shop = closed(
  {
    id: JsonPath,
    kind: JsonPath,
    kinds: Type.Record(Type.String(), oneOf(SHOP_EVENTS), {
      description: 'What each of its own kinds of event is.',
    }),
    test: Type.Optional(JsonPath),
    fields: Type.Array(
      closed({
        key: Type.String({ pattern: '^[a-z][a-z0-9_]{0,39}$' }),
        label: Type.String({ minLength: 1, maxLength: 80 }),
        type: oneOf(FIELD_TYPES),
        path: JsonPath,
        keepAs: Type.Optional(Type.String({ maxLength: 40 })),
      }),
      { description: 'What a happening tells, as the fields of the source.' },
    ),
    answers: Type.Array(closed({ channel: oneOf(CHANNELS), says: JsonPath, words: JsonPath, at: JsonPath }), {
      description:
        'What the customer agreed to at the check-out, by channel: yes, no or nothing, in which words, and when.',
    }),
    boxes: Type.Optional(
      closed(
        { ...listed, channel: JsonPath, words: JsonPath },
        'The boxes that its check-out shows, with their words.',
      ),
    ),
    customers: Type.Optional(
      closed(
        {
          ...listed,
          under: Type.String({ pattern: '^[a-z_]+$', description: 'The member of a happening that a customer is.' }),
        },
        'All customers that it has.',
      ),
    ),
    changes: Type.Optional(
      closed(
        { ...listed, position: JsonPath, at: JsonPath },
        'What happened after {after}, the position of the last one that is known: what was missed is asked for.',
      ),
    ),
    told: Type.Optional(closed({ ...listed, id: JsonPath }, 'The addresses that it tells what happens.')),
  },
  'A shop: what happens there, who its customers are, and what they agreed to. Its requests come as `webhooks` says.',
);

export type Shop = Static<typeof Shop>;
