import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ConnectionView, VerifyResult } from '../../src/contract/connection.ts';
import type { Operator } from '../world/operator.ts';
import { freePort } from '../world/processes.ts';
import { CAPSTAN, TERN_KEY, World } from '../world/world.ts';

let world: World;
let operator: Operator;
const servers: Server[] = [];

beforeAll(async () => {
  world = await World.start();
  operator = await world.operator();
});
afterAll(async () => {
  servers.forEach((server) => server.close());
  await world.stop();
});

/** A server that is not what the operator thinks. */
async function serve(server: Server): Promise<number> {
  servers.push(server.listen(0, '127.0.0.1'));
  await once(server, 'listening');
  return (server.address() as AddressInfo).port;
}
const troubleOf = async (baseUrl: string, key = TERN_KEY) => {
  const result = await operator.tryConnection(baseUrl, key);
  if (result.ok) throw new Error('it was not expected to work');
  expect(result.nextStep).toMatch(/\S/);
  return result;
};

it('a good key says whose account it is, and what came back', async () => {
  expect(await operator.tryConnection(world.ternPost, TERN_KEY)).toMatchObject({
    ok: true,
    account: 'Pellam Ridge Observatory',
    lists: 3,
    groups: 4,
    tags: 5,
    fields: 7,
  });
  // A slash at the end is nobody's mistake.
  expect(await operator.tryConnection(`${world.ternPost}/`, TERN_KEY)).toMatchObject({ ok: true });
});

it('a second connection to the same account is said of both', async () => {
  const [one, other] = [
    await operator.connect(world.ternPost, TERN_KEY),
    await operator.connect(`${world.ternPost}/`, TERN_KEY),
  ];
  const others = await world.others();
  const capstan = await operator.connectTo('capstan', others.capstan.url, CAPSTAN);
  const sameAs = async ({ id }: { id: string }) => (await operator.connection(id)).sameAs.map((same) => same.id);
  expect(await Promise.all([one, other, capstan].map(sameAs))).toEqual([[other.id], [one.id], []]);
  for (const { id } of [one, other, capstan]) await operator.send('DELETE', `/connections/${id}`);
});

describe('what is wrong is said', () => {
  it('of a wrong key', async () =>
    expect(await troubleOf(world.ternPost, 'wrong')).toMatchObject({
      about: 'key',
      problem: expect.stringContaining('does not know this API key') as string,
    }));
  it('of a missing key', async () => expect(await troubleOf(world.ternPost, '')).toMatchObject({ about: 'key' }));
  it('of a missing permission, by its name', async () => {
    const { about, problem } = await troubleOf(world.ternPost, `${TERN_KEY}-reads-only`);
    expect([about, problem]).toEqual(['key', expect.stringContaining('lacks a permission: members:write')]);
  });
  it('of a URL without a scheme, with the URL as it should be', async () => {
    expect(await troubleOf('127.0.0.1:4684')).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('no scheme') as string,
      instead: 'http://127.0.0.1:4684',
    });
    expect(await troubleOf('tern.example/api')).toMatchObject({
      about: 'baseUrl',
      instead: 'https://tern.example/api',
    });
  });
  it.each(['ftp://tern.example', 'https://user@tern.example', 'https://tern.example?x=1', 'https://'])(
    'of the URL %s',
    async (url) => expect(await troubleOf(url)).toMatchObject({ about: 'baseUrl' }),
  );
  it('of a web site that is not the service', async () =>
    expect(await troubleOf(world.site)).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('it is not Tern Post') as string,
    }));
  it('of something that answers anything', async () => {
    const port = await serve(
      createServer((_, response) => response.setHeader('content-type', 'application/json').end('{"hello":"there"}')),
    );
    expect(await troubleOf(`http://127.0.0.1:${port}`)).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('not as Tern Post does') as string,
    });
  });
  it('of nobody at the port', async () =>
    expect(await troubleOf(`http://127.0.0.1:${await freePort()}`)).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('Nothing answers') as string,
    }));
  it('of a name that nobody has', async () =>
    expect(await troubleOf('https://no-such-host.invalid')).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('No server is known') as string,
    }));
  it('of a redirect, with where it leads, and without handing the key on', async () => {
    const seen: string[] = [];
    const target = await serve(createServer((request, response) => response.end(seen.push(request.url ?? ''))));
    const port = await serve(
      createServer((_, response) =>
        response.writeHead(301, { location: `http://127.0.0.1:${target}/v1/account` }).end(),
      ),
    );
    expect((await troubleOf(`http://127.0.0.1:${port}`)).problem).toContain(`http://127.0.0.1:${target}`);
    expect(seen).toEqual([]);
  });
  it('of a certificate that nobody vouches for', async () => {
    const file = (name: string) => readFileSync(path.join(import.meta.dirname, 'self-signed', name));
    const port = await serve(
      createTlsServer({ key: file('key.pem'), cert: file('certificate.pem') }, (_, response) => response.end()),
    );
    expect(await troubleOf(`https://127.0.0.1:${port}`)).toMatchObject({
      about: 'baseUrl',
      problem: expect.stringContaining('certificate') as string,
    });
  });
  it('of https where only http is spoken', async () =>
    expect((await troubleOf(world.ternPost.replace('http:', 'https:'))).problem).toContain('does not speak https'));
  it('of a service that is out of order', async () => {
    await world.faults({ next: 1, kind: 'status', status: 503 });
    expect(await troubleOf(world.ternPost)).toMatchObject({
      about: 'service',
      problem: expect.stringContaining('out of order') as string,
    });
  });
});

describe('a saved connection', () => {
  let connection: ConnectionView;
  beforeAll(async () => {
    connection = await operator.connect(world.ternPost, TERN_KEY);
  });

  it('shows the end of its key only', () =>
    expect([connection.hints.key, JSON.stringify(connection).includes(TERN_KEY)]).toEqual(['••••••ests', false]));

  it('is not saved when it does not work', async () => {
    const response = await operator.send('POST', '/connections', {
      profile: 'tern-post',
      name: 'X',
      baseUrl: world.ternPost,
      credentials: { key: 'wrong' },
    });
    expect([
      response.status,
      ((await response.json()) as { errors: { pointer: string }[] }).errors[0]?.pointer,
    ]).toEqual([422, '/credentials/key']);
    expect((await operator.get<unknown[]>('/connections')).length).toBe(1);
  });

  it('learns what changed there when it is verified again', async () => {
    await world.changeTernPost((state) => ({
      lists: [...state.lists, { id: 'L-400', name: 'Volunteers', groups: [] }],
    }));
    const view = await operator.post<ConnectionView>(`/connections/${connection.id}/verify`);
    expect(view.catalogue?.lists.map(({ name }) => name)).toContain('Volunteers');
  });

  it('keeps what it knew when verifying fails, and says so', async () => {
    await world.faults({ next: 1, kind: 'status', status: 401 });
    const view = await operator.post<ConnectionView>(`/connections/${connection.id}/verify`);
    expect([view.verify?.ok, view.catalogue?.lists.length]).toEqual([false, 4]);
  });
});

it('an installation on the internet calls no private address', async () => {
  const guarded = await World.start({ IWASHI_ALLOW_PRIVATE_ADDRESSES: '' });
  const own = await guarded.operator();
  for (const url of [
    guarded.ternPost,
    guarded.ternPost.replace('127.0.0.1', 'localhost'),
    'http://[::1]:80',
    'http://169.254.169.254',
    'http://10.0.0.1',
    'http://[::ffff:127.0.0.1]',
  ]) {
    const result: VerifyResult = await own.tryConnection(url, TERN_KEY);
    expect([url, !result.ok && result.problem]).toEqual([url, expect.stringContaining('private address')]);
  }
  await guarded.stop();
});

it('a server that answers without end is not listened to without end', async () => {
  const port = await serve(
    createServer((_, response) => {
      const timer = setInterval(() => response.write('x'.repeat(500_000)), 5);
      response.on('close', () => clearInterval(timer));
    }),
  );
  expect((await troubleOf(`http://127.0.0.1:${port}`)).ok).toBe(false);
  const socket = connect(port, '127.0.0.1');
  await once(socket, 'connect');
  socket.destroy();
});
