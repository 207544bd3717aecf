import type { ChildProcess } from 'node:child_process';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { ExchangeView } from '../../src/contract/deliveries.ts';
import { CAUSES } from '../../src/core/delivery/index.ts';
import type { Authentication } from '../../src/contract/profile/index.ts';
import type { Access, Credentials } from '../../src/server/connectors/access.ts';
import type { PersonChange } from '../../src/server/connectors/connector.ts';
import { createConnector } from '../../src/server/connectors/engine.ts';
import { createSend } from '../../src/server/connectors/http.ts';
import { profileOf } from '../../src/server/connectors/registry.ts';
import { verifyConnection } from '../../src/server/connectors/verifying/verify.ts';
import type { BellbuoyState } from '../../src/standins/bellbuoy/app.ts';
import type { CapstanState } from '../../src/standins/capstan/state.ts';
import type { TernPostState } from '../../src/standins/tern-post/state.ts';
import type { RowbarnState } from '../../src/standins/rowbarn/state.ts';
import { wantedBy } from '../world/intents.ts';
import { endProgram, startProgram } from '../world/processes.ts';
import { StandIn } from '../world/world.ts';

/** One service as the kit needs it: how it is started, what lets us in, what is written there. */
interface Subject {
  name: string;
  profile: string;
  /** Another way to say who we are than the profile's own, which the stand-in takes too. */
  authentication?: Authentication;
  env: Record<string, string>;
  /** What comes after the stand-in's own address. */
  path?: string;
  credentials: Credentials;
  wrong: Partial<Access>;
  token?: string;
  /** Makes what let us in so far useless, as the other side does. @returns what lets us in from now on */
  rotate: (standIn: StandIn) => Promise<Partial<Access>>;
  change: Partial<PersonChange>;
  /** Where a fault has to strike so that it strikes a write. */
  writes: string;
}

const ternPost = (name: string, authentication?: Authentication): Subject => ({
  name,
  profile: 'tern-post',
  ...(authentication ? { authentication } : {}),
  env: { TERN_POST_KEY: 'kit-key' },
  credentials: { key: 'kit-key', user: 'key', password: 'kit-key' },
  wrong: { credentials: { key: 'other', user: 'key', password: 'other' } },
  async rotate(standIn) {
    await standIn.change<TernPostState>(({ keys }) => ({
      keys: keys.map((one) => (one.key === 'kit-key' ? { ...one, key: 'kit-key-two' } : one)),
    }));
    return { credentials: { key: 'kit-key-two', user: 'key', password: 'kit-key-two' } };
  },
  change: { otherFields: { given: 'Mara' }, places: [{ list: 'L-100', group: '' }] },
  writes: '/v1/members',
});

const grantOf = (token: string, until = Date.now() + 1e7) => ({
  kind: 'access' as const,
  token,
  app: 'kit-app',
  scope: 'sheets.read sheets.append',
  until,
});

const SUBJECTS: Subject[] = [
  ternPost('a key in a header'),
  ternPost('a key in the query', { kind: 'key in query', parameter: 'tern_key' }),
  ternPost('a bearer token', { kind: 'bearer' }),
  ternPost('user and password', { kind: 'user and password' }),
  {
    name: 'a signature',
    profile: 'capstan',
    env: { CAPSTAN_KEY: 'kit-key', CAPSTAN_SECRET: 'kit-secret' },
    credentials: { key: 'kit-key', secret: 'kit-secret' },
    wrong: { credentials: { key: 'kit-key', secret: 'other' } },
    async rotate(standIn) {
      await standIn.change<CapstanState>(({ pairs }) => ({
        pairs: pairs.map((pair) => (pair.key === 'kit-key' ? { ...pair, secret: 'kit-secret-two' } : pair)),
      }));
      return { credentials: { key: 'kit-key', secret: 'kit-secret-two' } };
    },
    change: {
      kind: 'person',
      fields: { mail: 'kit@hill.example', called: 'Mara' },
      places: [{ list: 'S1', group: '' }],
    },
    writes: '/api/records',
  },
  {
    name: 'a token granted by a person',
    profile: 'rowbarn',
    env: {},
    credentials: { clientId: 'kit-app', clientSecret: 'kit-client-secret' },
    wrong: { token: 'other' },
    token: 'kit-token',
    async rotate(standIn) {
      await standIn.change<RowbarnState>(() => ({ grants: [grantOf('kit-token', 1), grantOf('kit-token-two')] }));
      return { token: 'kit-token-two' };
    },
    change: { kind: 'signups', emailField: 'Email', fields: { Email: 'kit@hill.example' } },
    writes: '/v2/sheets',
  },
  {
    name: 'an address that is the secret',
    profile: 'bellbuoy',
    env: { BELLBUOY_HOOK: 'kit-hook' },
    path: '/ring/kit-hook',
    credentials: {},
    wrong: {},
    async rotate(standIn) {
      await standIn.change<BellbuoyState>(() => ({ hooks: [{ secret: 'kit-hook-two', room: 'front desk' }] }));
      return { baseUrl: `${standIn.url}/ring/kit-hook-two` };
    },
    change: { fields: { text: 'Hello' } },
    writes: '/ring',
  },
];

let clock = 0;
const now = () => Date.now() + clock;
const send = createSend(true, now);
afterAll(() => send.close());

/** For services that answer too slowly: the usual patience would make the kit as slow. */
const hasty = createSend(true, now, 400);
afterAll(() => hasty.close());

describe.each(SUBJECTS)('$profile, by $name', (subject) => {
  let child: ChildProcess;
  let standIn: StandIn;
  /** What the stand-in has in it before anything is done. */
  let inside: object;
  const exchanges: ExchangeView[] = [];
  beforeAll(async () => {
    const started = await startProgram(`standins/${subject.profile}.js`, [], subject.env);
    child = started.child;
    standIn = new StandIn(`http://127.0.0.1:${started.ready.port}`);
    if (subject.token) await standIn.change<RowbarnState>(() => ({ grants: [grantOf(subject.token ?? '')] }));
  });
  afterAll(() => endProgram(child));
  beforeEach(async () => {
    inside = await standIn.inside<object>();
    clock = 0;
    exchanges.length = 0;
    await standIn.noFaults();
  });

  const access = (more: Partial<Access> = {}): Access => ({
    profile: {
      ...profileOf(subject.profile),
      ...(subject.authentication ? { authentication: subject.authentication } : {}),
    },
    baseUrl: `${standIn.url}${subject.path ?? ''}`,
    credentials: subject.credentials,
    pool: subject.name,
    ...(subject.token ? { token: subject.token } : {}),
    ...more,
  });
  const connector = (more: Partial<Access> = {}) => createConnector(send, access(more), now, exchanges);
  const wanted = wantedBy('kit@hill.example', subject.change.emailField ?? 'mail', subject.change.kind ?? '');
  const change: PersonChange = {
    ...wanted,
    places: [],
    tags: [],
    leaves: [],
    tagsOff: [],
    fields: {},
    otherFields: {},
    proof: null,
    ...subject.change,
  };
  const write = async (key: string, more: Partial<Access> = {}, through = send) => {
    const service = createConnector(through, access(more), now, exchanges);
    const before = service.findsFirst ? await service.find(wanted) : { ok: true as const, value: null };
    if (!before.ok) return before;
    const written = await service.write(change, before.value, key);
    return written.ok ? service.place(change, written.value) : written;
  };
  const causeOf = (reply: { ok: boolean; fault?: { cause: string } }) => reply.fault?.cause ?? null;
  const verify = (more: Partial<Access> = {}) =>
    verifyConnection({ send, access: access(more), now, record: exchanges, dropFolder: '', allowPrivate: true });

  it('verifies, and hands over what it offers', async () => {
    const { result, catalogue } = await verify();
    expect(result.ok).toBe(true);
    expect([...(catalogue?.fields ?? []), ...(catalogue?.kinds ?? [])].length).toBeGreaterThan(0);
  });

  it('tells wrong credentials from anything else', async () => {
    const wrong = subject.path ? { baseUrl: `${standIn.url}/ring/other` } : subject.wrong;
    const { result } = await verify(wrong);
    expect(result).toMatchObject({ ok: false, refused: true });
    const reply = await connector(wrong).write(change, null, 'wrong');
    expect(causeOf(reply)).toBe('credentials refused');
  });

  it('writes, places, and reads back the same', async () => {
    expect(await write('once')).toMatchObject({ ok: true });
    if (connector().canLookFor(wanted)) {
      const found = await connector().find(wanted);
      if (!found.ok) throw new Error('not found');
      expect(found.value?.fields).toMatchObject({ ...change.fields, ...change.otherFields });
      expect(found.value?.lists ?? []).toEqual(change.places.map(({ list }) => list));
    }
  });

  it.each([
    ['out of order', { next: 1, kind: 'status', status: 500 }, 'unavailable'],
    ['away for a while', { next: 1, kind: 'status', status: 503 }, 'unavailable'],
    ['asking us to go slower', { next: 1, kind: 'status', status: 429 }, 'rate limited'],
    ['breaking off', { next: 1, kind: 'drop' }, 'time-out'],
  ])('a service that is %s is told by its cause', async (_, fault, cause) => {
    await standIn.faults({ ...fault, path: subject.writes });
    const reply = await write(`fault ${cause}`);
    expect(causeOf(reply)).toBe(cause);
    expect(CAUSES[cause as 'unavailable'].action).toBe('retry');
    if (cause === 'rate limited' && !reply.ok) expect(reply.fault.waitMs).toBe(1_000);
  });

  it('an answer that is not what the service sends is not taken for success', async () => {
    await standIn.faults({ next: 1, kind: 'garbage', path: subject.writes });
    expect(causeOf(await write('garbage'))).toBe('answer unreadable');
  });

  it.each([
    ['more than anybody should read', { next: 1, kind: 'huge' }, 'answer unreadable'],
    ['half an answer, and then the end', { next: 1, kind: 'half' }, 'time-out'],
  ])('%s is not taken for success', async (_, fault, cause) => {
    await standIn.faults({ ...fault, path: subject.writes });
    expect(causeOf(await write(`fault ${fault.kind}`))).toBe(cause);
  });

  it('an answer that comes too late is not waited for', async () => {
    await standIn.faults({ next: 1, kind: 'slow', delay: 1_500, path: subject.writes });
    expect(causeOf(await write('slow', {}, hasty))).toBe('time-out');
  });

  it('is calm again after a storm', async () => {
    await standIn.faults({ next: 30, kind: 'status', status: 429, path: subject.writes });
    const replies = await Promise.all(Array.from({ length: 30 }, (_, index) => write(`storm ${index}`)));
    expect(new Set(replies.map(causeOf))).toEqual(new Set(['rate limited']));
    await standIn.noFaults();
    expect(causeOf(await write('calm'))).toBeNull();
  });

  it('notices that what let us in was changed there, and takes the new', async () => {
    const renewed = await subject.rotate(standIn);
    expect(causeOf(await write('old'))).toBe('credentials refused');
    expect((await verify()).result).toMatchObject({ ok: false, refused: true });
    expect((await verify(renewed)).result.ok).toBe(true);
    expect(causeOf(await write('new', renewed))).toBeNull();
    await standIn.change<object>(() => inside);
  });

  it('shows no secret of its own in what is kept of requests', async () => {
    await write('secret');
    const kept = JSON.stringify(exchanges);
    const { key, secret: signing, clientSecret } = subject.credentials;
    for (const secret of [key, signing, clientSecret, subject.token, subject.env.BELLBUOY_HOOK])
      if (secret) expect(kept).not.toContain(secret);
  });
});

describe('what only some services have', () => {
  let child: ChildProcess;
  let capstan: StandIn;
  const parts = () => ({
    send,
    access: {
      profile: profileOf('capstan'),
      baseUrl: capstan.url,
      credentials: { key: 'kit-key', secret: 'kit-secret' },
      pool: 'skew',
    },
    now,
    record: [],
    dropFolder: '',
    allowPrivate: true,
  });
  beforeAll(async () => {
    const started = await startProgram('standins/capstan.js', [], {
      CAPSTAN_KEY: 'kit-key',
      CAPSTAN_SECRET: 'kit-secret',
    });
    child = started.child;
    capstan = new StandIn(`http://127.0.0.1:${started.ready.port}`);
  });
  afterAll(() => endProgram(child));

  it('signatures are made for the clock of the service when ours is wrong', async () => {
    clock = 40 * 60_000;
    expect((await verifyConnection(parts())).result.ok).toBe(true);
    clock = 0;
  });

  it('a list is whole though an item moves between its pages while it is read', async () => {
    const { segments } = await capstan.inside<CapstanState>();
    const many = [...segments, ...['S4', 'S5', 'S6'].map((code) => ({ code, title: `Segment ${code}` }))];
    await capstan.change<CapstanState>(() => ({ segments: many }));
    let asked = 0;
    const moving: typeof send = Object.assign(
      async (outgoing: Parameters<typeof send>[0]) => {
        const reply = await send(outgoing);
        // After the first page, its first item moves to the end: the second page begins one further on.
        if (/segments/.test(outgoing.url) && (asked += 1) === 1)
          await capstan.change<CapstanState>(({ segments: now }) => ({
            segments: [...now.slice(1), ...now.slice(0, 1)],
          }));
        return reply;
      },
      { close: () => Promise.resolve() },
    );
    const { catalogue } = await verifyConnection({ ...parts(), send: moving });
    const ids = catalogue?.lists.map(({ id }) => id) ?? [];
    expect(new Set(ids).size).toBe(ids.length);
    expect([...ids].sort()).toEqual(many.map(({ code }) => code).sort());
  });
});
