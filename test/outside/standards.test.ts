import Ajv2020 from 'ajv/dist/2020.js';
import { createHmac } from 'node:crypto';
import LinkHeader from 'http-link-header';
import { query } from 'json-p3';
import * as oauth from 'oauth4webapi';
import { Webhook } from 'standardwebhooks';
import { parseTemplate } from 'url-template';
import { describe, expect, it } from 'vitest';
import { ProfileSchema } from '../../src/contract/profile/index.ts';
import { readRemainingBudget, takeFromBudget } from '../../src/core/delivery/index.ts';
import { shippedProfiles } from '../../src/server/connectors/registry.ts';
import { WebhookReceiver } from '../world/receiver.ts';

describe('URI Templates: the examples of RFC 6570, 1.2 and 3.2 (from memory), in the forms that profiles use', () => {
  const values = {
    var: 'value',
    hello: 'Hello World!',
    half: '50%',
    empty: '',
    path: '/foo/bar',
    x: '1024',
    y: '768',
    who: 'fred',
    undef: undefined,
    list: ['red', 'green', 'blue'],
  };
  it.each([
    ['{var}', 'value'],
    ['{hello}', 'Hello%20World%21'],
    ['{half}', '50%25'],
    ['O{empty}X', 'OX'],
    ['O{undef}X', 'OX'],
    ['{x,y}', '1024,768'],
    ['{+path}/here', '/foo/bar/here'],
    ['{/var,x}/here', '/value/1024/here'],
    ['{?x,y}', '?x=1024&y=768'],
    ['{?x,y,empty}', '?x=1024&y=768&empty='],
    ['{?x,y,undef}', '?x=1024&y=768'],
    ['?fixed=yes{&x}', '?fixed=yes&x=1024'],
    ['{?list}', '?list=red,green,blue'],
    ['{?list*}', '?list=red&list=green&list=blue'],
    ['{;x,y}', ';x=1024;y=768'],
    ['{#path}', '#/foo/bar'],
  ])('%s is %s', (template, expanded) =>
    expect(parseTemplate(template).expand(values as unknown as Record<string, string>)).toBe(expanded),
  );
});

describe('JSONPath: the bookstore of RFC 9535, 1.5 (from memory)', () => {
  const store = {
    store: {
      book: [
        { category: 'reference', author: 'A', title: 'one', price: 8.95 },
        { category: 'fiction', author: 'B', title: 'two', price: 12.99 },
        { category: 'fiction', author: 'C', title: 'three', isbn: '0-553-21311-3', price: 8.99 },
      ],
      bicycle: { color: 'red', price: 399 },
    },
  };
  it.each<[string, unknown[]]>([
    ['$.store.book[*].author', ['A', 'B', 'C']],
    ['$..author', ['A', 'B', 'C']],
    ['$.store.book[2].title', ['three']],
    ['$.store.book[-1].title', ['three']],
    ['$.store.book[0,1].title', ['one', 'two']],
    ['$.store.book[:2].title', ['one', 'two']],
    ['$.store.book[?@.isbn].title', ['three']],
    ['$.store.book[?@.price<10].title', ['one', 'three']],
    ["$['store']['bicycle']['color']", ['red']],
    ['$.store.nothing', []],
  ])('%s', (path, found) => expect(query(path, store).values()).toEqual(found));
});

it('PKCE: the pair of RFC 7636, appendix B (from memory)', async () =>
  expect(await oauth.calculatePKCECodeChallenge('dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk')).toBe(
    'E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM',
  ));

describe('Link headers: the examples of RFC 8288, 3.5 (from memory)', () => {
  it('reads a relation with a title', () => {
    const links = LinkHeader.parse('<http://example.com/TheBook/chapter2>; rel="previous"; title="previous chapter"');
    expect(links.rel('previous')[0]).toMatchObject({
      uri: 'http://example.com/TheBook/chapter2',
      title: 'previous chapter',
    });
  });
  it('reads several links, and several relations of one', () => {
    const links = LinkHeader.parse(
      '<http://example.org/>; rel="start http://example.net/relation/other", </TheBook/chapter4>; rel=next',
    );
    expect(links.rel('next')[0]?.uri).toBe('/TheBook/chapter4');
    expect(links.rel('start')[0]?.uri).toBe('http://example.org/');
  });
});

describe('Standard Webhooks: the reference library in one direction, the specification in the other', () => {
  const secret = `whsec_${Buffer.from('twenty-four bytes of key').toString('base64')}`;
  const text = '{"type":"submission.delivered"}';
  const at = new Date();
  const id = 'msg_1';

  it('what it signs is HMAC-SHA-256 over id, time and body, as the specification says', () => {
    const seconds = Math.floor(at.getTime() / 1000);
    const byHand = createHmac('sha256', 'twenty-four bytes of key').update(`${id}.${seconds}.${text}`).digest('base64');
    expect(new Webhook(secret).sign(id, at, text)).toBe(`v1,${byHand}`);
  });
  it('what was signed by hand is taken, and what was changed is not', () => {
    const seconds = String(Math.floor(at.getTime() / 1000));
    const signature = createHmac('sha256', 'twenty-four bytes of key')
      .update(`${id}.${seconds}.${text}`)
      .digest('base64');
    const headers = { 'webhook-id': id, 'webhook-timestamp': seconds, 'webhook-signature': `v1,${signature}` };
    expect(new Webhook(secret).verify(text, headers)).toEqual({ type: 'submission.delivered' });
    expect(() => new Webhook(secret).verify(`${text} `, headers)).toThrow();
  });
  it('the receiver of our tests refuses what is not signed', async () => {
    const receiver = await WebhookReceiver.start();
    const response = await fetch(receiver.url, { method: 'POST', body: text });
    expect([response.status, receiver.taken, receiver.refused.length]).toEqual([401, [], 1]);
    receiver.stop();
  });
});

describe('how much room a service says there is', () => {
  const NOW = Date.UTC(2026, 0, 1);
  // draft-ietf-httpapi-ratelimit-headers-10, the examples of its section 4 (from memory); earlier versions; common practice.
  it.each<[string, Record<string, string>, { left: number; resetMs: number } | null]>([
    ['the field of the draft', { ratelimit: '"default";r=50;t=30' }, { left: 50, resetMs: 30_000 }],
    ['with blanks', { ratelimit: '"burst"; r=0; t=5' }, { left: 0, resetMs: 5_000 }],
    [
      'three fields',
      { 'ratelimit-limit': '10', 'ratelimit-remaining': '9', 'ratelimit-reset': '4' },
      { left: 9, resetMs: 4_000 },
    ],
    ['X-, in seconds', { 'x-ratelimit-remaining': '0', 'x-ratelimit-reset': '7' }, { left: 0, resetMs: 7_000 }],
    [
      'X-, as a time',
      { 'x-ratelimit-remaining': '1', 'x-ratelimit-reset': String(NOW / 1000 + 60) },
      { left: 1, resetMs: 60_000 },
    ],
    [
      'in milliseconds',
      { 'x-rate-limit-remaining': '2', 'x-rate-limit-reset': String(NOW + 9_000) },
      { left: 2, resetMs: 9_000 },
    ],
    [
      'as a date',
      { 'x-ratelimit-remaining': '3', 'x-ratelimit-reset': 'Thu, 01 Jan 2026 00:00:08 GMT' },
      { left: 3, resetMs: 8_000 },
    ],
    ['nothing', { 'content-type': 'text/plain' }, null],
    ['half of it', { 'x-ratelimit-remaining': '3' }, null],
    ['nonsense', { 'x-ratelimit-remaining': 'some', 'x-ratelimit-reset': 'soon' }, null],
  ])('%s', (_, headers, room) => expect(readRemainingBudget(headers, NOW)).toEqual(room));
});

it('a budget grants what the generic cell rate algorithm grants, counted by a bucket written differently', () => {
  const pace = { perSecond: 10, burst: 5 };
  let fullAt = 0;
  let bucket = { left: pace.burst, at: 0 };
  for (let step = 0, now = 1_000; step < 400; step += 1, now += (step * 37) % 260) {
    const wanted = 1 + (step % 4);
    const filled = Math.min(pace.burst, bucket.left + ((now - bucket.at) / 1000) * pace.perSecond);
    const byBucket = Math.min(wanted, Math.floor(filled + 1e-9));
    bucket = { left: filled - byBucket, at: now };
    const taken = takeFromBudget(fullAt, pace, wanted, now);
    fullAt = taken.fullAt;
    expect([step, taken.granted]).toEqual([step, byBucket]);
  }
});

describe('connector profiles', () => {
  const ajv = new Ajv2020({ strict: true, allowUnionTypes: true });
  it('have a schema that follows JSON Schema 2020-12, by the judgement of another validator', () =>
    expect([ajv.validateSchema(ProfileSchema), ajv.errorsText()]).toEqual([true, 'No errors']));
  it.each(shippedProfiles().map((profile) => [profile.id, profile] as const))('%s fits it', (_, profile) =>
    expect([ajv.validate(ProfileSchema, profile), ajv.errorsText()]).toEqual([true, 'No errors']),
  );
});
