import 'reflect-metadata';
import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import { afterAll, describe, expect, it } from 'vitest';
import { PUBLIC_API } from '../../contract/publicApi.ts';
import { readConfig } from '../config.ts';
import { createContext } from '../context.ts';
import { createApi } from './app.ts';
import { allow, gatesOf, type Session } from './gates.ts';

// Nothing is asked of the database here: the pool connects when it is first used.
const context = createContext(
  readConfig({
    DATABASE_URL: 'mysql://nobody@127.0.0.1:9/none',
    IWASHI_SECRET_KEY: randomBytes(32).toString('base64'),
    SMTP_URL: 'smtp://127.0.0.1:9',
    MAIL_FROM: 'letter@pellam-ridge.example',
    IWASHI_LOG: 'silent',
  }),
);
afterAll(() => context.close());

describe('gates', () => {
  it('stand before every address, but those that tell how to sign in', () => {
    const open = [...gatesOf(createApi(context))].flatMap(([address, gate]) => (gate === null ? [address] : []));
    expect(open.sort()).toEqual(['GET /openapi.json', 'GET /session/state', 'POST /session', 'POST /session/first']);
  });

  it('ask for what the description of the API says', () => {
    const gates = gatesOf(createApi(context));
    const described = PUBLIC_API.map(({ method, path, scope }) => [
      `${method.toUpperCase()} ${path.replace(/\{(\w+)\}/g, ':$1')}`,
      scope,
    ]);
    for (const [address, scope] of described) expect([address, gates.get(address ?? '')]).toEqual([address, scope]);
  });

  it('are missed where there is none', () => {
    const app = new Hono<Session>();
    app.get('/open', (c) => c.text('hello'));
    app.get('/shut', allow('sources:read'), (c) => c.text('hello'));
    expect([...gatesOf(app)]).toEqual([
      ['GET /open', null],
      ['GET /shut', 'sources:read'],
    ]);
  });

  it.each([
    ['a token with the scope', ['status:read'], 'status:read', 200],
    ['a token without it', ['metrics:read'], 'status:read', 403],
    ['a token, for what people only may do', ['status:read'], 'routes:write', 403],
    ['a person', 'everything', 'routes:write', 200],
  ] as const)('let through, or not: %s', async (_, may, permission, status) => {
    const app = new Hono<Session>();
    app.onError((error) => new Response(error.message, { status: 403 }));
    app.use(async (c, next) => {
      c.set('may', may === 'everything' ? may : [...may]);
      await next();
    });
    app.get('/it', allow(permission), (c) => c.text('in'));
    expect((await app.request('/it')).status).toBe(status);
  });
});
