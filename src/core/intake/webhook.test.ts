import { describe, expect, it } from 'vitest';
import { postsOf, sourceField } from '../../../test/world/fields.ts';
import {
  asUsable,
  goneOf,
  idsIn,
  learnFrom,
  readPayload,
  readWritten,
  readXml,
  withFieldsFor,
  writingOf,
  type KindLearnt,
  type PostsDocument,
} from './index.ts';

const EMAIL = sourceField('email', 'email', { path: '$.customer.email' });
const read = (document: PostsDocument, json: unknown) =>
  readPayload(document, { kind: 'json', json, files: [] }, { known: {}, now: 0 });
const valuesIn = (document: PostsDocument, json: unknown) => {
  const readings = read(document, json);
  return Array.isArray(readings) ? readings.map((one) => (one.ok ? one.values : one.issues)) : readings;
};
const customer = (email: string, more: object = {}) => ({ customer: { email }, ...more });

describe('a list of payloads', () => {
  it('is several of them, each by itself', () =>
    expect(valuesIn(postsOf([EMAIL]), [customer('a@b.example'), customer('c@d.example')])).toEqual([
      { email: 'a@b.example' },
      { email: 'c@d.example' },
    ]));
  it('is one where a path of the source goes into it', () =>
    expect(
      valuesIn(postsOf([sourceField('email', 'email', { path: '$[1].mail' })]), [{}, { mail: 'a@b.example' }]),
    ).toEqual([{ email: 'a@b.example' }]));
  it('says in which of them something is wrong', () =>
    expect(read(postsOf([EMAIL]), [customer('a@b.example'), customer('nobody')])).toMatchObject([
      { ok: true },
      { ok: false, issues: [{ part: 1 }] },
    ]));
});

describe('kinds of events', () => {
  const document = postsOf([EMAIL], {
    idPath: '$.id',
    events: { path: '$.type', known: [{ kind: 'sold', act: 'take' }], others: 'ignore' },
  });
  it('are taken and ignored as it is said, and ids are told apart by them', () => {
    const sent = [customer('a@b.example', { type: 'sold', id: 1 }), customer('c@d.example', { type: 'viewed', id: 2 })];
    expect(valuesIn(document, sent)).toEqual([{ email: 'a@b.example' }]);
    expect(idsIn(document, sent)).toEqual(['["sold","1"]']);
    expect(valuesIn(document, customer('nobody', { type: 'viewed' }))).toEqual([]);
  });
  it('of each order stand in it', () => {
    const each = postsOf([sourceField('email', 'email', { path: '@.mail' })], {
      each: '$.orders[*]',
      idPath: '@.number',
      events: { path: '@.state', known: [{ kind: 'paid', act: 'take' }], others: 'ignore' },
    });
    const orders = [
      { mail: 'a@b.example', state: 'paid', number: 7 },
      { mail: 'c@d.example', state: 'open', number: 8 },
    ];
    expect(valuesIn(each, { orders })).toEqual([{ email: 'a@b.example' }]);
    expect(idsIn(each, { orders })).toEqual(['["paid","7"]']);
  });
});

describe('what is learnt of payloads', () => {
  const learn = (document: PostsDocument, payloads: unknown[]) =>
    payloads.reduce<Record<string, KindLearnt>>((learnt, json, at) => learnFrom(learnt, document, json, at), {});
  const document = postsOf([EMAIL], { events: { path: '$.type', known: [], others: 'take' } });
  const of = (type: string, city?: string) => ({ type, ...(city === undefined ? {} : { city }) });

  it('says what is gone, since when and how often, by the kind of event', () => {
    const always = Array.from({ length: 12 }, () => of('sold', 'Pellam'));
    const learnt = learn(document, [...always, of('viewed'), of('sold'), of('sold'), of('viewed'), of('sold')]);
    expect(goneOf(learnt)).toEqual([{ kind: 'sold', path: '$.city', since: 13, without: 3 }]);
    expect(learnt.viewed?.came).toBe(2);
  });
  it('says nothing where it comes again, where it did not always come, and where few came', () => {
    const always = Array.from({ length: 12 }, () => of('sold', 'Pellam'));
    const gone = [of('sold'), of('sold'), of('sold')];
    expect(goneOf(learn(document, [...always, ...gone, of('sold', 'Pellam')]))).toEqual([]);
    const attimes = Array.from({ length: 20 }, (_, at) => of('sold', at % 4 ? 'Pellam' : ''));
    expect(goneOf(learn(document, [...attimes, ...gone]))).toEqual([]);
    expect(goneOf(learn(document, [...always.slice(0, 5), ...gone]))).toEqual([]);
  });
});

describe('fields for places', () => {
  it('are named by what they are called there, and fill those that look for nothing yet', () => {
    const before = [sourceField('email', 'email', { keepAs: 'email' })];
    const fields = withFieldsFor(before, [
      { path: '$.customer.email', type: 'email' },
      { path: '$.friend.email', type: 'email' },
    ]);
    expect(fields.map(({ key, path, keepAs }) => [key, path, keepAs])).toEqual([
      ['email', '$.customer.email', 'email'],
      ['friend_email', '$.friend.email', ''],
    ]);
  });
});

it('a draft is used as far as its paths are paths', () =>
  expect(asUsable(postsOf([EMAIL], { each: '$.[', idPath: '@.id' }))).toMatchObject({ each: '', idPath: '@.id' }));

describe('a body', () => {
  it.each([
    ['application/json', '', 'json'],
    ['application/cloudevents+json', '', 'json'],
    ['application/x-ndjson', '', 'lines'],
    ['application/atom+xml', '', 'xml'],
    ['application/x-www-form-urlencoded', '', 'form'],
    ['', ' {"a": 1}', 'json'],
    ['text/plain', '{"a": 1}\n{"a": 2}', 'lines'],
    ['', '<a/>', 'xml'],
    ['text/plain', 'words', null],
    ['image/png', '{}', null],
  ])('of the type %j that begins with %j is written as %j', (type, body, writing) =>
    expect(writingOf(type, body)).toBe(writing),
  );

  it('of XML is a tree: elements, attributes, texts, several of one name, references; no prefixes', () => {
    const body = `<?xml version="1.0"?><o:order xmlns:o="urn:o" id="007"><!-- note --><name>Zo&#235; &amp; co</name>
      <item sku="a">one</item><item/><note><![CDATA[<b>]]></note></o:order>`;
    expect(readXml(body)).toMatchObject({
      ok: true,
      value: {
        json: { order: { '@id': '007', name: 'Zoë & co', item: [{ '@sku': 'a', '#text': 'one' }, ''], note: '<b>' } },
      },
    });
  });

  it.each<['xml' | 'lines' | 'json', string]>([
    ['xml', '<a><b></a>'],
    ['xml', '<!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>'],
    ['xml', '<__proto__><x>1</x></__proto__>'],
    ['xml', 'text'],
    ['lines', '{"a":1}\n{'],
    ['json', '{'],
  ])('of %s like %j is refused with why', (writing, body) =>
    expect(writing === 'xml' ? readXml(body) : readWritten(writing, body)).toMatchObject({
      ok: false,
      issue: expect.any(String) as string,
    }),
  );
});
