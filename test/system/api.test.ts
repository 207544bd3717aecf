import Ajv2020 from 'ajv/dist/2020.js';
import { validate } from '@readme/openapi-parser';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PUBLIC_API } from '../../src/contract/publicApi.ts';
import type { NewTokenView, Scope } from '../../src/contract/tokens.ts';
import { SCOPES } from '../../src/contract/tokens.ts';
import { fields, observatory, submitJson } from '../world/observatory.ts';
import type { Operator } from '../world/operator.ts';
import { World } from '../world/world.ts';

interface Description {
  paths: Record<string, Record<string, { responses: Record<string, { content: Record<string, { schema: object }> }> }>>;
}

let world: World;
let operator: Operator;
let wired: Awaited<ReturnType<typeof observatory>>;
let description: Description;
beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
  wired = await observatory(world, operator, 'single');
  description = (await (await fetch(`${world.app}/api/openapi.json`)).json()) as Description;
});
afterAll(() => world.stop());

const makeToken = async (...scopes: Scope[]) =>
  (await operator.post<NewTokenView>('/tokens', { name: 'test', scopes, days: 1 })).token;
const call = (token: string, method: string, path: string, body?: object) =>
  fetch(`${world.app}/api${path}`, {
    method,
    headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });

describe('the description of the API', () => {
  it('is an OpenAPI document, by the judgement of a parser of its own', async () => {
    const result = await validate(structuredClone(description) as never);
    expect(result.valid ? [] : result.errors).toEqual([]);
  });

  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  const expectAsDescribed = async (path: string, method: 'get' | 'post', response: Response) => {
    const schema = description.paths[path]?.[method]?.responses['200']?.content['application/json']?.schema;
    if (!schema) throw new Error(`${method} ${path} is not described`);
    const body: unknown = await response.json();
    expect([response.status, ajv.validate(schema, body), ajv.errorsText()]).toEqual([200, true, 'No errors']);
  };

  it('says of every address what it really answers', async () => {
    const token = await makeToken(...(Object.keys(SCOPES) as Scope[]));
    const delivered = await submitJson(wired.source, fields('api@hill.example'));
    await operator.trailWhen(delivered, 'delivered');
    await world.faults({ next: 3, kind: 'status', status: 403 });
    const held: string[] = [];
    let last = '';
    for (const name of ['one', 'two', 'three']) {
      const id = await submitJson(wired.source, fields(`${name}@hill.example`));
      last = id;
      held.push((await operator.trailWhen(id, 'held')).deliveries[0]?.id ?? '');
    }
    const checked = new Set<string>();
    const check = async (path: string, method: 'get' | 'post', id = '', body?: object) => {
      checked.add(`${method} ${path}`);
      await expectAsDescribed(path, method, await call(token, method.toUpperCase(), path.replace('{id}', id), body));
    };
    for (const path of ['/status', '/submissions', '/deliveries', '/deliveries/held', '/connections'])
      await check(path, 'get');
    await check('/deliveries/{id}/arrived', 'post', held[0]);
    await check('/deliveries/{id}/drop', 'post', held[1], { reason: 'only a test' });
    await check('/deliveries/{id}/retry', 'post', held[2]);
    await operator.trailWhen(last, 'delivered');
    await world.faults({ next: 1, kind: 'status', status: 403 });
    const again = await submitJson(wired.source, fields('four@hill.example'));
    await check('/deliveries/{id}/replan', 'post', (await operator.trailWhen(again, 'held')).deliveries[0]?.id);
    await check('/deliveries/held', 'post', '', {
      act: 'retry',
      cause: 'not permitted',
      connectionId: wired.connection.id,
    });
    for (const what of ['verify', 'pause', 'resume'] as const)
      await check(`/connections/{id}/${what}`, 'post', wired.connection.id);
    expect([...checked].sort()).toEqual(PUBLIC_API.map(({ method, path }) => `${method} ${path}`).sort());
  });
});

describe('a token', () => {
  it('does what its scopes say, and nothing else', async () => {
    const token = await makeToken('status:read');
    expect((await call(token, 'GET', '/status')).status).toBe(200);
    for (const [method, path] of [
      ['GET', '/submissions'],
      ['POST', '/deliveries/held'],
      ['GET', '/sources'],
      ['GET', '/tokens'],
      ['POST', '/tokens'],
      ['DELETE', `/connections/${wired.connection.id}`],
    ] as const)
      expect([path, (await call(token, method, path, method === 'GET' ? undefined : {})).status]).toEqual([path, 403]);
  });

  it('is unknown when it is made up, and refused once it is taken back or over', async () => {
    expect((await call('iwashi_made-up', 'GET', '/status')).status).toBe(401);
    const { id, token } = await operator.post<NewTokenView>('/tokens', { name: 'x', scopes: ['status:read'], days: 1 });
    expect((await call(token, 'GET', '/status')).status).toBe(200);
    const list = await operator.get<object[]>('/tokens');
    expect(JSON.stringify(list)).not.toContain(token);
    await world.rows('UPDATE api_tokens SET expires_at = 1 WHERE id = ?', [id]);
    expect((await call(token, 'GET', '/status')).status).toBe(401);
    expect((await operator.send('DELETE', `/tokens/${id}`)).status).toBe(204);
    expect((await operator.send('POST', '/tokens', { name: 'x', scopes: ['everything'] })).status).toBe(422);
  });

  it('lets Prometheus read the figures', async () => {
    const metrics = (token: string) =>
      fetch(`${world.app}/metrics`, { headers: token ? { authorization: `Bearer ${token}` } : {} });
    expect((await metrics('')).status).toBe(401);
    const response = await metrics(await makeToken('metrics:read'));
    const text = await response.text();
    expect(response.headers.get('content-type')).toContain('text/plain');
    expect(text).toMatch(/^iwashi_deliveries\{state="delivered"\} [1-9]/m);
    expect(text).toMatch(/^iwashi_workers 1$/m);
  });
});
