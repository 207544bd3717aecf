import { describe, expect, it } from 'vitest';
import type { Profile } from '../../contract/profile/index.ts';
import { checkProfile } from '../../contract/profile/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { intentOf, wantedBy } from '../../../test/world/intents.ts';
import { catalogueOf } from '../../../test/world/catalogue.ts';
import { attemptDelivery } from '../connecting/attemptDelivery.ts';
import { abilitiesOf } from './catalogue.ts';
import { createConnector } from './engine.ts';
import type { OutgoingRequest, Send } from './http.ts';
import { recordOf } from './reading.ts';
import { profileOf } from './registry.ts';

type Answers = (method: string, path: string, body: Record<string, unknown>) => unknown;

/** A service of manners of its own; a number is a status without a body. */
function service(answers: Answers) {
  const asked: { method: string; path: string; body: unknown }[] = [];
  const send = ({ method, url, body }: OutgoingRequest) => {
    const path = url.replace('https://other.example', '');
    const sent = JSON.parse(body?.text ?? '{}') as Record<string, unknown>;
    asked.push({ method, path, body: sent });
    const given = answers(method, path, sent);
    const answer: Answer = {
      kind: 'answered',
      status: typeof given === 'number' ? given : 200,
      headers: {},
      body: typeof given === 'number' ? {} : given,
      readable: true,
    };
    return Promise.resolve({ answer, exchange: {} as never });
  };
  return { send: Object.assign(send, { close: () => Promise.resolve() }) as Send, asked };
}

const { batch: _batch, ...TERN_POST } = profileOf('tern-post');
const PROFILE: Profile = {
  ...TERN_POST,
  find: { request: { method: 'GET', path: '/people?mail={email}' }, record: '$.person' },
  write: {
    how: 'upsert',
    upsert: { request: { method: 'POST', path: '/people', body: { mail: '$email', town: '$fields.town' } } },
  },
  place: { tag: { method: 'PUT', path: '/people/{id}/tags', body: { tags: ['$tag'] } } },
  record: { id: '$.id', email: '$.mail', fields: '$', tags: '$.tags[*]' },
  errors: [],
  limits: { shownAfterSeconds: 0 },
};
const connectorOf = (send: Send, more: Partial<Profile> = {}) =>
  createConnector(
    send,
    { profile: { ...PROFILE, ...more }, baseUrl: 'https://other.example', credentials: { key: 'k' }, pool: 'p' },
    () => 0,
  );
const wanted = wantedBy('mara@hill.example', 'mail');
const change = {
  ...wanted,
  fields: { town: 'Hill' },
  otherFields: { town: 'Hill' },
  places: [],
  tags: ['new', 'newer'],
  leaves: [],
  tagsOff: ['old'],
  proof: null,
};
const catalogue = catalogueOf({});
const FIELD = { key: '', label: 'A field', type: 'text' as const, required: false, choices: [], maxLength: null };

describe('an answer of success is none where it says so', () => {
  const written = async (body: unknown, more: Partial<Profile> = {}) => {
    const reply = await connectorOf(service(() => body).send, more).write(change, null, 'k');
    return reply.ok ? 'taken' : `${reply.fault.cause}: ${reply.fault.said}`;
  };
  it.each([
    [{ success: false, message: 'The address is blocked.' }, 'value refused: The address is blocked.'],
    [{ ok: false, error: 'unknown_list' }, 'place gone: unknown_list'],
    [{ error: { code: 401, message: 'Log in first.' } }, 'credentials refused: Log in first.'],
    [{ data: null, errors: [{ message: 'Invalid API key' }] }, 'credentials refused: Invalid API key'],
    [{ status: 429, title: 'Slower, please.' }, 'rate limited: Slower, please.'],
    [{ status: 'error', message: 'Town is too long.' }, 'value refused: Town is too long.'],
    [{ jsonrpc: '2.0', id: 1, error: { code: -32602, message: 'Invalid params' } }, 'value refused: Invalid params'],
  ])('%j', async (body, said) => expect(await written(body)).toBe(said));
  it.each([
    [{ success: true, errors: [], error: null }],
    [{ ok: true, error: '' }],
    [{ person: { status: 'error' } }],
    [{ id: 7, status: 'failed' }],
    [{ status: 200 }],
    [''],
    [[{ error: 'of one of many' }]],
  ])('and is one with %j', async (body) => expect(await written(body)).toBe('taken'));
  it('its profile says where success stands, and what stands there', async () => {
    const success = { path: '$.outcome', is: ['ACCEPTED', 'UNCHANGED'] };
    expect(await written({ outcome: 'ACCEPTED', error: 'none' }, { success })).toBe('taken');
    expect(await written({ outcome: 'REJECTED', reason: 'No mailbox.' }, { success })).toBe(
      'value refused: No mailbox.',
    );
  });
  it('its profile says what a code in it means, and cannot refuse every success', async () => {
    const errors: Profile['errors'] = [{ status: 200, code: { path: '$.code', is: 'E7' }, cause: 'left there before' }];
    expect(await written({ code: 'E7', message: 'They left.' }, { errors })).toBe('left there before: They left.');
    expect(await written({ code: 'E0' }, { errors })).toBe('taken');
    const all = { ...PROFILE, errors: [{ status: 200, cause: 'conflict' as const }] };
    expect(checkProfile(all)).toMatchObject({ ok: false, issues: [{ pointer: '/errors/0' }] });
  });
  it('that nobody is there is no trouble', async () => {
    const find = (body: unknown) => connectorOf(service(() => body).send).find(wanted);
    expect(await find({ success: false, message: 'Person not found' })).toEqual({ ok: true, value: null });
    expect(await find({ success: false, message: 'Bad token' })).toMatchObject({
      ok: false,
      fault: { cause: 'credentials refused' },
    });
  });
});

describe('a request that replaces a whole sends along what is held', () => {
  const held = { id: '7', mail: 'mara@hill.example', town: 'Hill', tags: ['kept', 'old'] };
  it('once, with ours, and without what comes off; whoever is not known is looked for', async () => {
    const { send, asked } = service((method) => (method === 'GET' ? { person: held } : {}));
    expect(await connectorOf(send).place(change, null)).toEqual({ ok: true, value: { moved: true } });
    expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual([
      'GET /people?mail=mara%40hill.example',
      'PUT /people/7/tags',
    ]);
    expect(asked[1]?.body).toEqual({ tags: ['kept', 'new', 'newer'] });
  });
  it('also where the answer to what was written before shows nothing of it', async () => {
    const { send, asked } = service((method) => (method === 'GET' ? { person: held } : { id: '7' }));
    const { id, mail } = held;
    await connectorOf(send).place(change, recordOf(PROFILE, { id, mail }));
    expect(asked.at(-1)?.body).toEqual({ tags: ['kept', 'new', 'newer'] });
  });
  it('one that adds is sent for each, as it is', async () => {
    const { send, asked } = service((method) => (method === 'GET' ? { person: held } : {}));
    const place = { tag: { method: 'POST' as const, path: '/people/{id}/tags', body: { tags: ['$tag'] } } };
    await connectorOf(send, { place }).place(change, null);
    expect(asked.slice(1).map(({ body }) => body)).toEqual([{ tags: ['new'] }, { tags: ['newer'] }]);
  });
  const PUT: Profile['write'] = {
    how: 'upsert',
    upsert: { request: { method: 'PUT', path: '/people', body: { mail: '$email', tags: '$tags' } } },
  };
  const delivered = async (write: Profile['write']) => {
    const { send, asked } = service((method) => (method === 'GET' ? { person: held } : {}));
    const intent = intentOf('mara@hill.example', { tags: ['new'] });
    const carried = { id: 'd', intent, begunAt: null, cause: null };
    await attemptDelivery(connectorOf(send, { write }), carried, catalogue, null, {
      unclear: false,
      now: 0,
      begin: () => Promise.resolve(true),
      trustsAnswers: false,
    });
    return asked.find(({ method }) => method === 'PUT')?.body;
  };
  it('also where the person is written by it', async () =>
    expect(await delivered(PUT)).toMatchObject({ tags: ['kept', 'old', 'new'] }));
  it('but for one of which its profile says that it keeps them', async () =>
    expect(await delivered({ ...PUT, upsert: { ...PUT.upsert, keeps: true } })).toMatchObject({ tags: ['new'] }));
  it('or it is said beforehand that it may take them away', () => {
    const { tags: _, ...blind } = PROFILE.record;
    expect(abilitiesOf(PROFILE).takesAway).toBeUndefined();
    expect(abilitiesOf({ ...PROFILE, record: blind }).takesAway).toEqual(['tags']);
    expect(abilitiesOf({ ...PROFILE, write: PUT, record: blind }).takesAway).toEqual(['tags']);
  });
  it('a second list is not dropped in silence', () => {
    const lists = profileOf('tern-post').catalogue.lists;
    const one: Profile['write'] = {
      how: 'upsert',
      upsert: { request: { method: 'POST', path: '/people', body: { mail: '$email', list: '$list' } } },
    };
    expect(abilitiesOf({ ...PROFILE, catalogue: { lists }, write: one }).oneList).toBe(true);
    expect(abilitiesOf(profileOf('tern-post')).oneList).toBe(false);
  });

  it('asks nobody once more whose proof is sent, where the service says so, and every way into its lists sends it', () => {
    const post = profileOf('tern-post');
    expect(abilitiesOf(post).takesProof).toBe(true);
    const silent = { ...post, catalogue: { ...post.catalogue, lists: { ...post.catalogue.lists, asksProven: true } } };
    expect(abilitiesOf(silent as typeof post).takesProof).toBe(false);
    const proofless = { ...post, place: { ...post.place, intoList: { method: 'POST', path: '/lists/{list}' } } };
    expect(abilitiesOf(proofless as typeof post).takesProof).toBe(false);
  });
});

describe('what was done before something failed is said', () => {
  const carried = {
    id: 'd',
    intent: intentOf('mara@hill.example', { fields: { town: 'Hill' }, tags: ['new'] }),
    begunAt: null,
    cause: null,
  };
  const circumstances = { unclear: false, now: 0, begin: () => Promise.resolve(true), trustsAnswers: false };

  it('an answer without the id is looked up, so that places are not left out', async () => {
    let held: Record<string, unknown> | null = null;
    const { send } = service((method, path, body) => {
      if (method === 'GET') return { person: held };
      held = path.endsWith('/tags') ? { ...held, ...body } : { id: '9', tags: [], ...body };
      return {};
    });
    const ending = await attemptDelivery(connectorOf(send), carried, catalogue, null, circumstances);
    expect(ending).toMatchObject({ kind: 'delivered', provedBy: 'look' });
    expect(held).toMatchObject({ tags: ['new'] });
  });
  it('where nobody can be looked for, the person is said to be there', async () => {
    const { send, asked } = service(() => ({}));
    const { find: _, ...blind } = PROFILE;
    const connector = createConnector(
      send,
      { profile: blind, baseUrl: 'https://other.example', credentials: { key: 'k' }, pool: 'p' },
      () => 0,
    );
    const ending = await attemptDelivery(connector, carried, catalogue, null, circumstances);
    expect(asked).toHaveLength(1);
    expect(ending).toMatchObject({ kind: 'failed', wrote: true, fault: { cause: 'incomplete request' } });
  });
});

describe('whoever can be looked for is looked for', () => {
  it('by the address, though no field holds it; and not by a field that is not mapped', () => {
    const { send } = service(() => ({}));
    expect(connectorOf(send).canLookFor(wantedBy('mara@hill.example'))).toBe(true);
    const find: Profile['find'] = { request: { method: 'GET', path: '/rows?where={keyField}&is={key}' } };
    expect(connectorOf(send, { find }).canLookFor(wantedBy('mara@hill.example'))).toBe(false);
    expect(connectorOf(send, { find }).canLookFor(wantedBy('mara@hill.example', 'mail'))).toBe(true);
  });
});

describe('what is offered is what requests carry', () => {
  const fields = { fixed: ['town', 'street'].map((key) => ({ ...FIELD, key })) };
  it('a field that none of them names is not there', async () => {
    const { send } = service(() => ({}));
    const reply = await connectorOf(send, { catalogue: { fields } }).fetchCatalogue();
    expect(reply.ok && reply.value.fields.map(({ key }) => key)).toEqual(['town']);
  });
  it.each<[said: unknown, required: boolean]>([
    ['Y', true],
    ['required', true],
    [1, true],
    ['true', true],
    ['N', false],
    ['optional', false],
    [null, false],
  ])('one that is said to be required by %j', async (said, required) => {
    const { send } = service(() => ({ fields: [{ key: 'town', name: 'Town', isMandatory: said }] }));
    const own = {
      request: { method: 'GET' as const, path: '/fields' },
      items: '$.fields[*]',
      key: '$.key',
      label: '$.name',
      required: '$.isMandatory',
    };
    const reply = await connectorOf(send, { catalogue: { fields: own } }).fetchCatalogue();
    expect(reply.ok && reply.value.fields.map((field) => field.required)).toEqual([required]);
  });
  it('all are, where the fields go as a whole', async () => {
    const { send } = service(() => ({}));
    const write: Profile['write'] = {
      how: 'upsert',
      upsert: { request: { method: 'POST', path: '/people', body: { mail: '$email', more: '$otherFields' } } },
    };
    const reply = await connectorOf(send, { catalogue: { fields }, write }).fetchCatalogue();
    expect(reply.ok && reply.value.fields.map(({ key }) => key)).toEqual(['town', 'street']);
    expect(reply.ok && reply.value.can.takesAddress).toBe(true);
  });
});
