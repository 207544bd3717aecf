import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { Hono, type Context } from 'hono';
import { html } from 'hono/html';
import { page } from './page.ts';
import type { Grant, RegisteredApp, RowbarnState } from './state.ts';

const CODE_MS = 60_000;
const REFRESH_MS = 90 * 24 * 3_600_000;

/** Rowbarn's own window for granting access, and its token address: OAuth 2.0 (RFC 6749) with PKCE (RFC 7636). */
export function oauthRoutes(state: () => RowbarnState, changed: () => void): Hono {
  const app = new Hono();

  app.get('/authorize', (c) => {
    const asked = c.req.query();
    const wrong = whyNot(state(), asked);
    if (wrong)
      return c.html(
        page(
          'Access',
          html`<h1>This cannot be granted</h1>
            <p role="alert">${wrong}</p>`,
        ),
        400,
      );
    const name = state().apps.find(({ id }) => id === asked.client_id)?.name ?? '';
    return c.html(
      page(
        'Access',
        html`<h1>${name} asks for access</h1>
          <p>You are signed in as <strong>${state().person.name}</strong>, ${state().person.workspace}.</p>
          <p>
            ${name} wants to:
            ${(asked.scope ?? '')
              .split(' ')
              .map((scope) => SCOPES[scope] ?? scope)
              .join('; ')}.
          </p>
          <form method="post" action="/oauth/authorize">
            ${Object.entries(asked).map(([key, value]) => html`<input type="hidden" name="${key}" value="${value}" />`)}
            <button name="answer" value="yes">Give access</button> <button name="answer" value="no">Refuse</button>
          </form>`,
      ),
    );
  });

  app.post('/authorize', async (c) => {
    const asked = Object.fromEntries(new URLSearchParams(await c.req.text()));
    const wrong = whyNot(state(), asked);
    if (wrong) return c.html(page('Access', html`<p role="alert">${wrong}</p>`), 400);
    const back = new URL(asked.redirect_uri ?? '');
    if (asked.state) back.searchParams.set('state', asked.state);
    if (asked.answer !== 'yes') {
      back.searchParams.set('error', 'access_denied');
      return c.redirect(back.href, 303);
    }
    const code = randomBytes(16).toString('base64url');
    keep({
      kind: 'code',
      token: code,
      app: asked.client_id ?? '',
      scope: asked.scope ?? '',
      until: Date.now() + CODE_MS,
      challenge: asked.code_challenge ?? '',
      returnUrl: asked.redirect_uri ?? '',
    });
    back.searchParams.set('code', code);
    return c.redirect(back.href, 303);
  });

  app.post('/token', async (c) => {
    const asked = Object.fromEntries(new URLSearchParams(await c.req.text()));
    const known = whichApp(c, state(), asked);
    if (!known) return c.json({ error: 'invalid_client' }, 401, { 'www-authenticate': 'Basic realm="rowbarn"' });
    const refused = (error: string, why: string) => c.json({ error, error_description: why }, 400);
    switch (asked.grant_type) {
      case 'authorization_code': {
        const grant = take('code', asked.code ?? '', known);
        if (!grant) return refused('invalid_grant', 'The code is unknown, used or too old.');
        const verifier = createHash('sha256')
          .update(asked.code_verifier ?? '')
          .digest('base64url');
        if (verifier !== grant.challenge) return refused('invalid_grant', 'The code verifier does not fit.');
        if (asked.redirect_uri !== grant.returnUrl) return refused('invalid_grant', 'Another return address.');
        return c.json(issue(known, grant.scope));
      }
      case 'refresh_token': {
        const grant = take('refresh', asked.refresh_token ?? '', known);
        if (!grant) return refused('invalid_grant', 'The refresh token is unknown, used or taken back.');
        state().refreshes += 1;
        return c.json(issue(known, grant.scope));
      }
      case 'client_credentials':
        return c.json(issue(known, asked.scope ?? 'sheets.read sheets.append', false));
      default:
        return refused('unsupported_grant_type', 'Codes, refresh tokens and client credentials are taken.');
    }
  });

  function keep(grant: Grant): void {
    state().grants.push(grant);
    changed();
  }

  /** Uses up a code or a refresh token: each is good once. */
  function take(kind: Grant['kind'], token: string, { id }: RegisteredApp): Grant | undefined {
    const grant = state().grants.find((one) => one.kind === kind && one.token === token && one.app === id);
    if (!grant) return undefined;
    state().grants = state().grants.filter((one) => one !== grant && one.until > Date.now());
    changed();
    return grant.until > Date.now() ? grant : undefined;
  }

  function issue({ id }: RegisteredApp, scope: string, withRefresh = true) {
    const access = randomBytes(24).toString('base64url');
    const refresh = randomBytes(24).toString('base64url');
    const { accessSeconds } = state();
    keep({ kind: 'access', token: access, app: id, scope, until: Date.now() + accessSeconds * 1000 });
    if (withRefresh) keep({ kind: 'refresh', token: refresh, app: id, scope, until: Date.now() + REFRESH_MS });
    return {
      access_token: access,
      token_type: 'Bearer',
      expires_in: accessSeconds,
      scope,
      ...(withRefresh ? { refresh_token: refresh } : {}),
    };
  }

  return app;
}

const SCOPES: Record<string, string> = {
  'sheets.read': 'read your sheets and their columns',
  'sheets.append': 'add rows to your sheets',
};

function whyNot(state: RowbarnState, asked: Record<string, string>): string | null {
  const app = state.apps.find(({ id }) => id === asked.client_id);
  if (!app) return 'No application is registered under this id.';
  if (asked.redirect_uri !== app.returnUrl)
    return `The application is registered with another return address than ${asked.redirect_uri ?? ''}.`;
  if (asked.response_type !== 'code') return 'Only codes are given.';
  return asked.code_challenge && asked.code_challenge_method === 'S256' ? null : 'A code challenge (S256) is needed.';
}

function whichApp(c: Context, state: RowbarnState, asked: Record<string, string>): RegisteredApp | undefined {
  const [scheme = '', encoded = ''] = (c.req.header('authorization') ?? '').split(' ');
  const pair = scheme.toLowerCase() === 'basic' ? Buffer.from(encoded, 'base64').toString().split(':') : [];
  const id = decodeURIComponent(pair[0] ?? asked.client_id ?? '');
  const secret = Buffer.from(decodeURIComponent(pair[1] ?? asked.client_secret ?? ''));
  const app = state.apps.find((candidate) => candidate.id === id);
  const expected = Buffer.from(app?.secret ?? '');
  return app && expected.length === secret.length && timingSafeEqual(expected, secret) ? app : undefined;
}
