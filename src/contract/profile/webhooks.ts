import Type, { type Static } from 'typebox';
import { closed, JsonPath, oneOf, RequestTemplate } from './requests.ts';

/** What a service's event can mean to Iwashi. */
export const EVENT_MEANINGS = ['trial', 'unsubscribed', 'suppressed', 'subscribed', 'confirmed'] as const;
export type EventMeaning = (typeof EVENT_MEANINGS)[number];

export const Webhooks = closed(
  {
    register: closed({
      request: RequestTemplate,
      id: JsonPath,
      secret: Type.Optional(JsonPath),
    }),
    remove: Type.Optional(RequestTemplate),
    signature: closed(
      {
        header: Type.String(),
        prefix: Type.Optional(Type.String()),
        timeHeader: Type.Optional(Type.String({ description: 'Seconds since 1970; requests too old are refused.' })),
        hash: oneOf(['sha256', 'sha512']),
        encoding: oneOf(['hex', 'base64']),
        canonical: Type.String({ description: 'What is signed (HMAC, RFC 2104), with {time} and {body} in it.' }),
      },
      'How its requests prove that they come from it, with the secret that registering gave.',
    ),
    events: Type.Optional(JsonPath),
    id: JsonPath,
    kind: JsonPath,
    email: JsonPath,
    at: Type.Optional(JsonPath),
    means: Type.Record(Type.String(), oneOf(EVENT_MEANINGS), {
      description: 'What each of its kinds of event means; others are noted and change nothing.',
    }),
  },
  'How the service tells us what happens there: the request that registers $address, and how its events read.',
);

export type Webhooks = Static<typeof Webhooks>;
