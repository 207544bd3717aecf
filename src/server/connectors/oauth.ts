import * as oauth from 'oauth4webapi';
import type { Access } from './access.ts';
import type { Send } from './http.ts';

/** What a service hands out; kept encrypted. */
export interface Tokens {
  access: string;
  /** null when the service hands out none: then access is asked for anew. */
  refresh: string | null;
  /** From when until when they are good, in milliseconds since 1970; null when the service does not say. */
  from: number;
  until: number | null;
}

export type TokenReply = { ok: true; tokens: Tokens } | { ok: false; refused: boolean; said: string };

/** Tokens are renewed this long before they end, so that none ends on the way. */
const AHEAD_MS = 60_000;

/** Whether tokens have to be renewed before they are used; short-lived ones in the last third of their life. */
export const isStale = ({ from, until }: Tokens, now: number): boolean =>
  until !== null && until - now < Math.min(AHEAD_MS, (until - from) / 3);

/** The window of the service in which a person grants access, with PKCE (RFC 7636). */
export async function authorisationUrl(
  access: Access,
  { state, verifier, returnUrl }: { state: string; verifier: string; returnUrl: string },
): Promise<string> {
  const { authentication } = access.profile;
  if (authentication.kind !== 'OAuth, granted by a person') throw new Error('access is not granted by a person');
  const url = new URL(resolve(access, authentication.authorize));
  const asked = {
    response_type: 'code',
    client_id: access.credentials.clientId ?? '',
    redirect_uri: returnUrl,
    scope: authentication.scopes.join(' '),
    state,
    code_challenge: await oauth.calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
  };
  for (const [name, value] of Object.entries(asked)) url.searchParams.set(name, value);
  return url.href;
}

/** Redeems what came back from the service's window for tokens. */
export function redeemCode(
  send: Send,
  access: Access,
  { state, verifier, returnUrl, cameBack }: { state: string; verifier: string; returnUrl: string; cameBack: URL },
  now: number,
): Promise<TokenReply> {
  return asking(now, async () => {
    const { server, client, secret, options } = partiesOf(send, access);
    const parameters = oauth.validateAuthResponse(server, client, cameBack, state);
    const response = await oauth.authorizationCodeGrantRequest(
      server,
      client,
      secret,
      parameters,
      returnUrl,
      verifier,
      options,
    );
    return oauth.processAuthorizationCodeResponse(server, client, response);
  });
}

/** Gets new tokens for old ones. */
export function refreshTokens(send: Send, access: Access, refresh: string, now: number): Promise<TokenReply> {
  return asking(now, async () => {
    const { server, client, secret, options } = partiesOf(send, access);
    const response = await oauth.refreshTokenGrantRequest(server, client, secret, refresh, options);
    const answer = await oauth.processRefreshTokenResponse(server, client, response);
    // RFC 6749, 6: without a new refresh token the old one stays good.
    return { ...answer, refresh_token: answer.refresh_token ?? refresh };
  });
}

/** Gets tokens in the name of the client itself (RFC 6749, 4.4). */
export function clientTokens(send: Send, access: Access, now: number): Promise<TokenReply> {
  return asking(now, async () => {
    const { server, client, secret, options } = partiesOf(send, access);
    const { authentication } = access.profile;
    const scope = 'scopes' in authentication ? authentication.scopes.join(' ') : '';
    const asked = new URLSearchParams(scope === '' ? {} : { scope });
    const response = await oauth.clientCredentialsGrantRequest(server, client, secret, asked, options);
    return oauth.processClientCredentialsResponse(server, client, response);
  });
}

export const newVerifier = (): string => oauth.generateRandomCodeVerifier();
export const newState = (): string => oauth.generateRandomState();

function partiesOf(send: Send, access: Access) {
  const { authentication } = access.profile;
  if (!('token' in authentication)) throw new Error('this profile has no token address');
  const { clientId = '', clientSecret = '' } = access.credentials;
  const server: oauth.AuthorizationServer = {
    issuer: access.baseUrl,
    token_endpoint: resolve(access, authentication.token),
  };
  return {
    server,
    client: { client_id: clientId },
    secret: oauth.ClientSecretBasic(clientSecret),
    // A service at http:// is only reached where the installation allows private addresses: stand-ins, and those behind a VPN.
    // eslint-disable-next-line @typescript-eslint/no-deprecated -- the mark is meant to make it stand out, see above
    options: { [oauth.customFetch]: fetchThrough(send, access), [oauth.allowInsecureRequests]: true },
  };
}

const resolve = ({ baseUrl }: Access, place: string): string =>
  place.startsWith('/') ? baseUrl.replace(/\/+$/, '') + place : place;

/** Our own sending in the place of fetch: guarded addresses, limits, time-outs. */
function fetchThrough(send: Send, access: Access) {
  return async (
    url: string,
    { method, headers, body }: { method: string; headers: Record<string, string>; body?: BodyInit | null },
  ) => {
    const sent = new Headers(headers);
    const { answer } = await send({
      method: method,
      url,
      headers: Object.fromEntries(sent),
      ...(body ? { body: { text: String(body as URLSearchParams), type: 'application/x-www-form-urlencoded' } } : {}),
      secret: { headers: ['authorization'], query: [], path: false, bodies: true },
      pool: access.pool,
      atOnce: 2,
    });
    if (answer.kind === 'unanswered') throw new Unanswered(answer.fault);
    const text = typeof answer.body === 'string' ? answer.body : JSON.stringify(answer.body);
    return new Response(text, { status: answer.status, headers: answer.headers });
  };
}

class Unanswered extends Error {}

/** Runs one exchange with the token address, and tells a refusal from a fault that passes. */
async function asking(now: number, run: () => Promise<oauth.TokenEndpointResponse>): Promise<TokenReply> {
  try {
    const { access_token, refresh_token, expires_in } = await run();
    return {
      ok: true,
      tokens: {
        access: access_token,
        refresh: refresh_token ?? null,
        from: now,
        until: expires_in === undefined ? null : now + expires_in * 1000,
      },
    };
  } catch (error) {
    if (error instanceof oauth.AuthorizationResponseError)
      return {
        ok: false,
        refused: true,
        said: error.error === 'access_denied' ? 'Access was refused there.' : error.error,
      };
    if (error instanceof oauth.ResponseBodyError)
      return { ok: false, refused: true, said: error.error_description ?? error.error };
    if (error instanceof oauth.WWWAuthenticateChallengeError)
      return { ok: false, refused: true, said: 'The client id and the client secret do not go together.' };
    return {
      ok: false,
      refused: false,
      said: error instanceof Unanswered ? `no answer: ${error.message}` : 'an answer that is none of OAuth',
    };
  }
}
