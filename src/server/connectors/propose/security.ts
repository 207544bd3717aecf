import type { Authentication, Credential } from '../../../contract/profile/index.ts';
import type { SecurityScheme } from './openApi.ts';

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
