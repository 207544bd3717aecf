import { describe, expect, it } from 'vitest';
import type { ExchangeView } from '../../contract/deliveries.ts';
import { checkProfile } from '../../contract/profile/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { abilitiesOf } from './catalogue.ts';
import { wantedBy } from '../../../test/world/intents.ts';
import { wantedOf } from './wanted.ts';
import { createConnector } from './engine.ts';
import type { OutgoingRequest, Send } from './http.ts';
import { mask } from './http.ts';
import { profileOf } from './registry.ts';
import { gapsIn, leadsUp } from './template.ts';

/** A network that answers from a list, and remembers what was asked. */
function network(...bodies: unknown[]): { send: Send; asked: OutgoingRequest[] } {
  const asked: OutgoingRequest[] = [];
  const exchange: ExchangeView = {
    at: '',
    method: '',
    url: '',
    requestHeaders: {},
    requestBody: null,
    status: 200,
    responseHeaders: {},
    responseBody: null,
    milliseconds: 0,
  };
  const send = (outgoing: OutgoingRequest) => {
    asked.push(outgoing);
    const body = bodies.shift();
    const answer: Answer =
      typeof body === 'number'
        ? { kind: 'answered', status: body, headers: {}, body: {}, readable: true }
        : { kind: 'answered', status: 200, headers: {}, body, readable: true };
    return Promise.resolve({ answer, exchange });
  };
  return { send: Object.assign(send, { close: () => Promise.resolve() }), asked };
}

const connector = (send: Send) =>
  createConnector(
    send,
    { profile: profileOf('tern-post'), baseUrl: 'https://tern.example/', credentials: { key: 'key' }, pool: 'p' },
    () => 0,
  );
const end = { items: [], next: null };

/** A change that puts nobody anywhere. */
const NOWHERE = { places: [], tags: [], leaves: [], tagsOff: [], proof: null };

describe('the engine, with the profile of Tern Post', () => {
  it('follows cursors to the end, and asks each list for its groups', async () => {
    const { send, asked } = network(
      { items: [{ id: 'A', name: 'First', asks_to_confirm: true }], next: 'c1' },
      { items: [{ id: 'B', name: 'Second' }], next: null },
      { items: [{ id: 'G', name: 'Group' }], next: null },
      end,
      { items: [{ name: 'tag' }], next: null },
      {
        items: [{ key: 'f', label: 'Figure', kind: 'figure', required: true, options: [], longest: null }],
        next: null,
      },
    );
    expect(await connector(send).fetchCatalogue()).toEqual({
      ok: true,
      value: {
        lists: [
          { id: 'A', name: 'First', confirms: true, groups: [{ id: 'G', name: 'Group' }] },
          { id: 'B', name: 'Second', confirms: false, groups: [] },
        ],
        tags: [{ id: 'tag', name: 'tag' }],
        fields: [{ key: 'f', label: 'Figure', type: 'number', required: true, choices: [], maxLength: null }],
        kinds: [],
        can: abilitiesOf(profileOf('tern-post')),
      },
    });
    expect(asked.map(({ url }) => url.replace('https://tern.example', ''))).toEqual([
      '/v1/lists',
      '/v1/lists?cursor=c1',
      '/v1/lists/A/groups',
      '/v1/lists/B/groups',
      '/v1/tags',
      '/v1/fields',
    ]);
  });

  it('stops at a service that pages in circles', async () => {
    const { send, asked } = network(...Array.from({ length: 1000 }, () => ({ items: [], next: 'again' })));
    await connector(send).fetchCatalogue();
    expect(asked.length).toBeLessThan(1000);
  });

  it('sends the key in its header, the address in the body and never in the URL', async () => {
    const { send, asked } = network({ member: null });
    expect(await connector(send).find(wantedBy('mara@hill.example'))).toEqual({
      ok: true,
      value: null,
    });
    expect(asked[0]).toMatchObject({
      method: 'POST',
      headers: { 'X-Tern-Key': 'key' },
      secret: { headers: ['X-Tern-Key'], query: [], path: false },
      body: { text: '{"email":"mara@hill.example"}', type: 'application/json' },
    });
    expect(asked[0]?.url).not.toContain('mara');
  });

  it('leaves out what there is not: no list, no group, no proof', async () => {
    const { send, asked } = network({
      member: { email: 'a@b.example', state: 'active', fields: {}, lists: [], groups: [], tags: [] },
    });
    const fields = { email: 'a@b.example', given: 'A' };
    await connector(send).write(
      { ...wantedBy('a@b.example', 'email'), fields, otherFields: { given: 'A' }, ...NOWHERE },
      null,
      'once',
    );
    expect(JSON.parse(asked[0]?.body?.text ?? '')).toEqual({
      email: 'a@b.example',
      fields: { given: 'A' },
      lists: [],
      groups: [],
      tags: [],
    });
    expect(asked[0]?.headers['Idempotency-Key']).toBe('once');
  });

  it('gives a failure as a value', async () => {
    const { send } = network(401);
    expect(await connector(send).find(wantedBy('a@b.example'))).toMatchObject({
      ok: false,
      fault: { cause: 'credentials refused' },
    });
  });
});

describe('somebody else', () => {
  const wanted = wantedBy('mara@hill.example', '', 'person');
  const stranger = {
    id: 'M-1',
    email: 'stranger@hill.example',
    state: 'active',
    fields: {},
    lists: [],
    groups: [],
    tags: [],
  };
  const change = { ...wanted, ...NOWHERE, fields: {}, otherFields: {} };

  it('is never taken for the person who was looked for', async () => {
    const { send, asked } = network({ member: stranger });
    expect(await connector(send).find(wanted)).toMatchObject({ ok: false, fault: { cause: 'another person' } });
    expect(asked).toHaveLength(1);
  });
  it('whatever the capitals, the person is', async () => {
    const { send } = network({ member: { ...stranger, email: 'Mara@Hill.example' } });
    expect(await connector(send).find(wanted)).toMatchObject({ ok: true, value: { id: 'M-1' } });
  });
  it('is told by the field that the address is in, where a record has no other', async () => {
    const rows = (mail: string) => network({ entries: [{ number: 1, cells: { Mail: mail } }] });
    const sheets = (send: Send) =>
      createConnector(
        send,
        { profile: profileOf('rowbarn'), baseUrl: 'https://rows.example', credentials: {}, pool: 'p' },
        () => 0,
      );
    const inMail = wantedBy('mara@hill.example', 'Mail', 'person');
    expect(await sheets(rows('mara@hill.example').send).find(inMail)).toMatchObject({ ok: true, value: { id: '1' } });
    expect(await sheets(rows('other@hill.example').send).find(inMail)).toMatchObject({
      fault: { cause: 'another person' },
    });
  });
  it('is told by a number as well, however the service writes it, and without one nobody is looked for', async () => {
    const sheets = (send: Send) =>
      createConnector(
        send,
        { profile: profileOf('rowbarn'), baseUrl: 'https://rows.example', credentials: {}, pool: 'p' },
        () => 0,
      );
    const byNumber = wantedOf({
      subject: [{ key: { kind: 'phone', value: '+441632960001' }, field: 'Phone' }],
      kind: 's',
    });
    const rows = (phone: string) => network({ entries: [{ number: 1, cells: { Phone: phone } }] });
    const same = rows('+44 1632 960001');
    expect(await sheets(same.send).find(byNumber)).toMatchObject({ ok: true, value: { id: '1' } });
    expect(same.asked[0]?.url).toContain('where=Phone&is=%2B441632960001');
    expect(await sheets(rows('+44 1632 960002').send).find(byNumber)).toMatchObject({
      fault: { cause: 'another person' },
    });
    // A service that knows people by their address alone is not asked for nobody.
    const { send, asked } = network({ member: stranger });
    expect(await connector(send).find(byNumber)).toMatchObject({ fault: { cause: 'incomplete request' } });
    expect(asked).toEqual([]);
  });
  it('in the answer to a write is no proof either, alone or among several', async () => {
    expect(await connector(network({ member: stranger }).send).write(change, null, 'k')).toMatchObject({
      fault: { cause: 'another person' },
    });
    const results = [{ email: 'mara@hill.example', status: 200, member: stranger }];
    const together = connector(network({ results }).send).together;
    expect(await together?.write([{ change, idempotencyKey: 'k' }], [[]])).toMatchObject([
      { fault: { cause: 'another person' } },
    ]);
  });
  it('who was there before is not in an answer that shows nobody', async () => {
    const before = await connector(network({ member: { ...stranger, email: 'mara@hill.example' } }).send).find(wanted);
    expect(before).toMatchObject({ ok: true, value: { id: 'M-1' } });
    const written = await connector(network({}).send).write(change, before.ok ? before.value : null, 'k');
    expect(written).toEqual({ ok: true, value: null });
  });
  it('is not looked for by a profile that does not say for whom, or does not see who came', async () => {
    const profile = profileOf('tern-post');
    const anybody = { ...profile, find: { request: { method: 'GET' as const, path: '/v1/members' }, record: '$[0]' } };
    expect(checkProfile(anybody)).toMatchObject({ ok: false, issues: [{ pointer: '/find/request' }] });
    const { email: _, ...record } = profile.record;
    expect(checkProfile({ ...profile, record })).toMatchObject({ ok: false, issues: [{ pointer: '/record' }, {}] });
    const { send, asked } = network({});
    const access = { profile: anybody, baseUrl: 'https://tern.example/', credentials: {}, pool: 'p' };
    expect(await createConnector(send, access, () => 0).find(wanted)).toMatchObject({
      fault: { cause: 'incomplete request' },
    });
    expect(asked).toEqual([]);
  });
});

describe('a request that would have a gap in its address is not sent', () => {
  const held = (id: string) => ({
    id,
    email: 'a@b.example',
    state: '',
    standing: null,
    madeAt: null,
    fields: {},
    lists: [],
    groups: [],
    tags: [],
  });
  const wanted = wantedBy('a@b.example');
  it.each(['', '..', '.'])('for the id %j', async (id) => {
    const { send, asked } = network({});
    expect(await connector(send).remove(wanted, held(id))).toMatchObject({ fault: { cause: 'incomplete request' } });
    expect(asked).toEqual([]);
  });
  it.each([
    ['/members/{id}', {}, ['id']],
    ['/members{/id}', { id: '' }, ['id']],
    ['/lists/{list}/members/{id}', { list: 'L' }, ['id']],
    ['/members{?email,cursor}', {}, ['email']],
    ['/members?mail={email}', { email: '' }, ['email']],
    ['/lists{?cursor}', {}, []],
    ['/rows?from={offset}', { offset: 0 }, []],
    ['/rows/{kind:3}/{id*}', { kind: 'k', id: '7' }, []],
  ])('%s with %j lacks %j', (template, values, gaps) => expect(gapsIn(template, values)).toEqual(gaps));
  it.each([
    ['/members/..', true],
    ['/members/%2E%2e/x', true],
    ['/members/...', false],
    ['/members/a.b?c=..', false],
  ])('%s leads up: %s', (path, up) => expect(leadsUp(path)).toBe(up));
});

describe('several people by one request', () => {
  const changes = ['a@b.example', 'c@d.example', 'e@f.example'].map((email) => ({
    change: { ...NOWHERE, ...wantedBy(email, 'email'), fields: { email }, otherFields: {} },
    idempotencyKey: `key of ${email}`,
  }));
  const member = { email: 'a@b.example', state: 'active', fields: {}, lists: [], groups: [], tags: [] };
  const refused = { email: 'c@d.example', status: 409, type: 'https://tern.example/left-before', title: 'They left.' };
  const together = (send: Send) => {
    const batch = connector(send).together;
    if (!batch) throw new Error('the profile says nothing of several');
    return batch;
  };

  it('each has an outcome of their own, and one that is not spoken of is unclear', async () => {
    const { send, asked } = network({ results: [{ email: 'a@b.example', status: 201, member }, refused] });
    const records: ExchangeView[][] = [[], [], []];
    const replies = await together(send).write(changes, records);
    expect(asked).toHaveLength(1);
    expect(JSON.parse(asked[0]?.body?.text ?? '')).toMatchObject({
      members: [{ email: 'a@b.example', key: 'key of a@b.example' }, {}, {}],
    });
    expect(replies).toMatchObject([
      { ok: true, value: { email: 'a@b.example', standing: 'subscribed' } },
      { ok: false, fault: { cause: 'left there before', said: 'They left.' } },
      { ok: false, fault: { cause: 'answer unreadable' } },
    ]);
    expect(records.map(([exchange]) => exchange?.together)).toEqual([3, 3, 3]);
    expect(records[1]?.[0]).toMatchObject({ requestBody: { email: 'c@d.example' }, responseBody: refused });
    expect(JSON.stringify(records[2])).not.toMatch(/a@b|c@d/);
  });

  it('a request that fails fails for all', async () => {
    const { send } = network(503);
    const replies = await together(send).write(changes, [[], [], []]);
    expect(replies.map((reply) => (reply.ok ? null : reply.fault.cause))).toEqual(Array(3).fill('unavailable'));
  });

  it('several are found by one request, and who is not there is not', async () => {
    const { send } = network({ members: [member] });
    const found = await together(send).find?.(['a@b.example', 'c@d.example'], [[], []]);
    expect(found?.ok && [...found.value.keys()]).toEqual(['a@b.example']);
  });
});

it('shows of a key only its end, and of a short one nothing', () => {
  expect(mask('tern-0123456789abcdef')).toBe('••••••cdef');
  expect(mask('short')).toBe('••••••');
});

describe('what a kind of service can do', () => {
  it('is what its requests send, whatever else it can be asked for', () => {
    const profile = profileOf('tern-post');
    expect(abilitiesOf(profile)).toMatchObject({ lists: true, groups: true, tags: true });
    const silent = JSON.parse(
      JSON.stringify({ ...profile, place: undefined })
        .replaceAll('$lists', '$none')
        .replaceAll('$groups', '$none')
        .replaceAll('$tags', '$none'),
    ) as typeof profile;
    expect(silent.catalogue.tags).toBeDefined();
    expect(abilitiesOf(silent)).toMatchObject({ groups: false, tags: false });
  });
});
