import { createHash, createHmac } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import type { Authentication, Paging } from '../../contract/profile/index.ts';
import type { Answer } from '../../core/delivery/index.ts';
import { requestsOf, type Access } from './access.ts';
import { authenticate } from './authenticate.ts';
import { redactUrl, type OutgoingRequest, type Send } from './http.ts';
import { fetchAll } from './paging.ts';
import { profileOf } from './registry.ts';
import { encodeBody, fillBody } from './template.ts';

const withAuthentication = (authentication: Authentication): Access => ({
  profile: { ...profileOf('tern-post'), authentication },
  baseUrl: 'https://x.example',
  credentials: { key: 'the-key', secret: 'the-secret', user: 'mara', password: 'lantern: hill' },
  token: 'the-token',
  pool: 'p',
});
const signed = (authentication: Authentication, bodyText = '') =>
  authenticate(
    withAuthentication(authentication),
    { method: 'POST', url: new URL('https://x.example/a/b?c=d'), bodyText },
    1_700_000_000_123,
  );

describe('on whose behalf a request comes', () => {
  it('by a key in a header, with a prefix where the service wants one', () =>
    expect(signed({ kind: 'key in header', header: 'X-Key', prefix: 'Token ' })).toMatchObject({
      headers: { 'X-Key': 'Token the-key' },
      secret: { headers: ['X-Key'] },
    }));
  it('by a key in the query, which is never shown', () => {
    const { url, secret } = signed({ kind: 'key in query', parameter: 'api_key' });
    expect(url.href).toBe('https://x.example/a/b?c=d&api_key=the-key');
    expect(redactUrl(url.href, secret)).toBe('https://x.example/a/b?c=d&api_key=hidden');
  });
  it('by bearer, also with a token that was granted', () => {
    expect(signed({ kind: 'bearer' }).headers).toEqual({ Authorization: 'Bearer the-key' });
    const granted = { kind: 'OAuth, by client' as const, token: '/t', scopes: [] };
    expect(signed(granted).headers).toEqual({ Authorization: 'Bearer the-token' });
  });
  it('by user name and password, whose blank and colon are its own business (RFC 7617, 2)', () =>
    expect(signed({ kind: 'user and password' }).headers).toEqual({
      Authorization: `Basic ${Buffer.from('mara:lantern: hill').toString('base64')}`,
    }));
  it('by an address that is the secret', () =>
    expect(redactUrl('https://x.example/hooks/0123456789abcdef', signed({ kind: 'secret address' }).secret)).toBe(
      'https://x.example/••••••cdef',
    ));
  it('by a signature over what the profile says', () => {
    const body = '{"a":1}';
    const { headers } = signed(
      {
        kind: 'signature',
        keyHeader: 'K',
        timeHeader: 'T',
        time: 'ISO 8601',
        signatureHeader: 'S',
        prefix: 'v1=',
        hash: 'sha512',
        encoding: 'hex',
        canonical: '{method} {host} {path} {target} {time} {key} {bodyHash}',
      },
      body,
    );
    const time = '2023-11-14T22:13:20.123Z';
    const hash = createHash('sha512').update(body).digest('hex');
    const canonical = `POST x.example /a/b /a/b?c=d ${time} the-key ${hash}`;
    expect(headers).toEqual({
      K: 'the-key',
      T: time,
      S: `v1=${createHmac('sha512', 'the-secret').update(canonical).digest('hex')}`,
    });
  });
});

describe('what a body becomes', () => {
  const values = { email: 'a@b.example', fields: { town: 'Hill', visits: 3 }, lists: ['L'], none: undefined };
  it('has values in the place of their names, and nothing in the place of none', () =>
    expect(
      fillBody(
        { to: '$email', in: { town: '$fields.town', no: '$fields.no' }, lists: '$lists', gone: '$none', fixed: 1 },
        values,
      ),
    ).toEqual({ to: 'a@b.example', in: { town: 'Hill' }, lists: ['L'], fixed: 1 }));
  it('has an object spread where the service takes fields beside others', () =>
    expect(fillBody({ '...': '$fields', email: '$email' }, values)).toEqual({
      town: 'Hill',
      visits: 3,
      email: 'a@b.example',
    }));
  it('goes as JSON, as a form whose lists repeat their name, or as text', () => {
    expect(encodeBody(undefined, { a: 1 })).toEqual({ text: '{"a":1}', type: 'application/json' });
    expect(encodeBody('form', { a: 'x y', b: ['1', '2'], c: null }).text).toBe('a=x+y&b=1&b=2&c=');
    expect(encodeBody('text', 'hello')).toEqual({ text: 'hello', type: 'text/plain; charset=utf-8' });
    expect(encodeBody('text', undefined).text).toBe('');
  });
});

describe('a list that comes in pages', () => {
  /** A service of seven items, two a page, that pages in every way. */
  const ITEMS = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((id) => ({ id }));
  const service = () => {
    const asked: string[] = [];
    const send = (outgoing: OutgoingRequest) => {
      const url = new URL(outgoing.url);
      asked.push(url.pathname + url.search);
      const { page, offset, cursor, at } = Object.fromEntries(url.searchParams) as Record<string, string | undefined>;
      const start = offset ? Number(offset) : page ? (Number(page) - 1) * 2 : Number(cursor ?? at ?? 0);
      const isLast = start + 2 >= ITEMS.length;
      const answer: Answer = {
        kind: 'answered',
        status: 200,
        readable: true,
        headers: isLast ? {} : { link: `<https://x.example/items?at=${start + 2}>; rel="next"` },
        body: { items: ITEMS.slice(start, start + 2), next: isLast ? null : String(start + 2), pages: 4, total: 7 },
      };
      return Promise.resolve({ answer, exchange: {} as never });
    };
    return { asked, send: Object.assign(send, { close: () => Promise.resolve() }) as Send };
  };
  const read = async (path: string, paging: Paging | undefined) => {
    const { send, asked } = service();
    const line = { send, access: withAuthentication({ kind: 'none' }), now: () => 0, record: [] };
    const listing = { request: { method: 'GET' as const, path }, items: '$.items[*]', ...(paging ? { paging } : {}) };
    const reply = await fetchAll(line, listing, {}, (item) => (item as { id: string }).id);
    return { ids: reply.ok ? reply.value.map((item) => (item as { id: string }).id).join('') : '', asked };
  };
  it.each<[string, string, Paging]>([
    ['cursor', '/items{?cursor}', { kind: 'cursor', next: '$.next' }],
    ['page number, told how many', '/items{?page}', { kind: 'page number', pages: '$.pages' }],
    ['offset, told how many', '/items{?offset,limit}', { kind: 'offset', size: 2, total: '$.total' }],
    ['offset, until a page is short', '/items{?offset}', { kind: 'offset', size: 2 }],
    ['Link header', '/items', { kind: 'link' }],
  ])('is whole, by %s', async (_, path, paging) => {
    const { ids, asked } = await read(path, paging);
    expect([ids, asked.length]).toEqual(['abcdefg', 4]);
  });
  it('by page number that nobody told the end of, ends where nothing new comes', async () =>
    expect((await read('/items{?page}', { kind: 'page number' })).ids).toBe('abcdefg'));
  it('that comes whole is asked for once', async () => expect((await read('/items', undefined)).asked).toHaveLength(1));
  it('is not followed to another host, where the key would go along', async () => {
    const { send } = service();
    let asked = 0;
    const elsewhere = (async (outgoing: OutgoingRequest) => {
      asked += 1;
      const { answer, exchange } = await send(outgoing);
      return {
        answer: { ...answer, headers: { link: '<https://other.example/items>; rel="next"' } } as Answer,
        exchange,
      };
    }) as unknown as Send;
    const line = { send: elsewhere, access: withAuthentication({ kind: 'none' }), now: () => 0, record: [] };
    await fetchAll(
      line,
      { request: { method: 'GET', path: '/items' }, items: '$.items[*]', paging: { kind: 'link' } },
      {},
      (item) => (item as { id: string }).id,
    );
    expect(asked).toBe(1);
  });
});

it('counts the requests that deliveries make at most', () => {
  expect(['tern-post', 'capstan', 'rowbarn', 'bellbuoy'].map((id) => requestsOf(profileOf(id)))).toEqual([
    { perTry: 2, perPerson: 3 },
    { perTry: 3, perPerson: 2 },
    { perTry: 2, perPerson: 0 },
    { perTry: 1, perPerson: 0 },
  ]);
});
