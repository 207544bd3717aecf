import Type, { type Static } from 'typebox';
import { closed, oneOf } from './requests.ts';

/** A path of the service, or a whole web address; never a script or another protocol. */
const WEB_PLACE = { pattern: '^(/|https?://)', maxLength: 500 };

export const Authentication = Type.Union(
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

export const Credential = closed(
  {
    name: oneOf(['key', 'secret', 'user', 'password', 'clientId', 'clientSecret']),
    label: Type.String({ minLength: 1, maxLength: 60 }),
    help: Type.String({ maxLength: 500, description: 'Where it is found there, and what permission it needs.' }),
    shownOnce: Type.Optional(Type.Boolean()),
  },
  'One thing that the person who connects has to paste.',
);

export type Authentication = Static<typeof Authentication>;
export type Credential = Static<typeof Credential>;
export type CredentialName = Credential['name'];
