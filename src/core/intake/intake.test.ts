import { describe, expect, it } from 'vitest';
import { formOf, postsOf, sourceField } from '../../../test/world/fields.ts';
import type { FileValue, SourceField } from '../values/index.ts';
import {
  contentOf,
  embeddedFiles,
  entriesOf,
  factsOf,
  inferFields,
  keyFor,
  readPayload,
  readRaw,
  isSite,
  readVisit,
  NO_GUARDS,
  suspicionOf,
  type Guards,
  withValueAt,
  type Entries,
  type PostsDocument,
} from './index.ts';

const fields: SourceField[] = [
  sourceField('email', 'email', { required: true }),
  sourceField('likes', 'several choices', { options: ['Moon', 'Sun'] }),
  sourceField('name'),
];
const map: FileValue = { file: 'F', name: 'map.pdf', mediaType: 'application/pdf', size: 9, sha256: 'aa', link: '/F' };

/** Of whom nothing is known. */
const STRANGER = { known: {}, now: 0 };

const readForm = (own: SourceField[], entries: Entries, files: { name: string; value: FileValue }[] = []) => {
  const readings = readPayload(formOf(own), { kind: 'entries', entries, files }, STRANGER);
  if (!Array.isArray(readings) || readings.length !== 1) throw new Error('one reading was expected');
  return readings[0];
};

describe('reading a form', () => {
  it('reads the fields of the source and leaves the rest alone', () => {
    const entries: Entries = [
      ['likes', 'Moon'],
      ['email', 'a@b.example'],
      ['likes', 'Sun'],
      ['unknown', 'x'],
    ];
    const values = { email: 'a@b.example', likes: ['Moon', 'Sun'], name: '' };
    expect(readForm(fields, entries)).toEqual({ ok: true, values });
  });

  it('keeps values under the ids of fields, whatever they are called now', () =>
    expect(readForm([sourceField('name', 'text', { id: 'old' })], [['name', 'Mara']])).toEqual({
      ok: true,
      values: { old: 'Mara' },
    }));

  it('puts together what was entered in parts, and takes it whole as well', () => {
    const parts = [sourceField('who', 'person name', { required: true }), sourceField('home', 'postal address')];
    const entered = readForm(parts, [
      ['who.given', ' Mara  Anne '],
      ['who.family', 'Quill'],
      ['home.street', '1 Ridge Road'],
      ['home.postcode', 'PR1 2HL'],
      ['home.city', 'Pellam'],
      ['home.region', ''],
      ['home.country', 'GB'],
    ]);
    const who = { given: 'Mara Anne', family: 'Quill' };
    const home = { street: '1 Ridge Road', postcode: 'PR1 2HL', city: 'Pellam', region: '', country: 'GB' };
    expect(entered).toEqual({ ok: true, values: { who, home } });
    expect(readForm(parts, [['who', 'Quill, Mara Anne']])).toEqual({ ok: true, values: { who, home: '' } });
    const empty = readForm(parts, [
      ['who.given', ''],
      ['who.family', ' '],
    ]);
    expect(empty).toMatchObject({ ok: false, issues: [{ field: 'who' }] });
  });

  it('puts together the rows of a list, and leaves empty ones out', () => {
    const list = sourceField('pupils', 'list of records', { options: ['Name', 'Age'] });
    const rows = readForm(
      [list],
      [
        ['pupils.0.0', 'Mara'],
        ['pupils.0.1', '7'],
        ['pupils.1.0', ''],
        ['pupils.1.1', ''],
        ['pupils.2.0', 'Idris'],
        ['pupils.2.9', 'no such column'],
      ],
    );
    expect(rows).toEqual({ ok: true, values: { pupils: [{ Name: 'Mara', Age: '7' }, { Name: 'Idris' }] } });
    expect(readForm([{ ...list, required: true }], [['pupils.0.0', ' ']])).toMatchObject({ ok: false });
  });

  it('takes a file for the field that it came under, of the kinds that it takes', () => {
    const field = sourceField('plan', 'file', { required: true, options: ['image/*', 'application/pdf'] });
    expect(readForm([field], [], [{ name: 'plan', value: map }])).toEqual({ ok: true, values: { plan: map } });
    expect(readForm([field], [], [{ name: 'other', value: map }])).toMatchObject({ ok: false });
    const script = { ...map, mediaType: 'text/html' };
    expect(readForm([field], [], [{ name: 'plan', value: script }])).toMatchObject({
      ok: false,
      issues: [{ field: 'plan' }],
    });
    // A text is never a file, whatever it says.
    expect(readForm([field], [['plan', JSON.stringify(map)]])).toMatchObject({ ok: false });
  });

  it('reads every type as it is held, and says what is wrong with it', () => {
    const typed = [sourceField('when', 'date'), sourceField('heads', 'number'), sourceField('call', 'phone')];
    const written = (when: string, heads: string, call: string) =>
      readForm(typed, [
        ['when', when],
        ['heads', heads],
        ['call', call],
      ]);
    expect(written('2026-05-31', '24', '+44 1632 960001')).toEqual({
      ok: true,
      values: { when: '2026-05-31', heads: 24, call: '+441632960001' },
    });
    expect(written('2026-02-30', '0x1F', '')).toMatchObject({ issues: [{ field: 'when' }, { field: 'heads' }] });
  });

  it('asks for yes or no by two buttons, where nothing chosen is no answer', () => {
    const asked = sourceField('coming', 'yes/no', { widget: 'buttons', required: true });
    expect(readForm([asked], [['coming', 'no']])).toEqual({ ok: true, values: { coming: false } });
    expect(readForm([asked], [])).toMatchObject({ ok: false });
    expect(readForm([{ ...asked, required: false }], [])).toEqual({ ok: true, values: { coming: '' } });
  });

  it('names every wrong field at once', () => {
    const read = readForm(fields, [
      ['likes', 'Mars'],
      ['email', 'nobody'],
    ]);
    expect(read).toMatchObject({ issues: [{ field: 'email' }, { field: 'likes' }] });
  });

  it.each([[[]], ['x'], [{ a: { b: 1 } }], [null]])('is not JSON like %j', (json) =>
    expect(readPayload(formOf(fields), { kind: 'json', json, files: [] }, STRANGER)).toHaveProperty('problem'),
  );
});

describe('reading posts from elsewhere', () => {
  const at = (key: string, type: SourceField['type'], path: string, more: Partial<SourceField> = {}) =>
    sourceField(key, type, { path, ...more });
  const order = {
    id: 77,
    customer: { phone: '+44 1632 960001', name: { given: 'Mara Anne', family: 'Quill' }, agreed: true },
    total: { amount: '31.50', currency: 'EUR' },
    items: [
      { sku: 'chart', count: 2 },
      { sku: 'torch', count: 1 },
    ],
    notes: ['gift', 'fragile'],
  };
  const read = (document: PostsDocument, json: unknown, files: { name: string; value: FileValue }[] = []) =>
    readPayload(document, { kind: 'json', json, files }, STRANGER);

  it('finds each value where its path says, by its type', () => {
    const document = postsOf([
      at('phone', 'phone', '$.customer.phone'),
      at('who', 'person name', '$.customer.name'),
      at('agreed', 'yes/no', '$.customer.agreed'),
      at('total', 'money', '$.total'),
      at('items', 'list of records', '$.items'),
      at('chosen', 'list of records', '$.items[?@.count > 1]'),
      at('notes', 'several choices', '$.notes'),
      at('first', 'text', '$.items[0].sku'),
      at('number', 'number', '$.id'),
      at('gone', 'text', '$.customer.mail'),
    ]);
    expect(read(document, order)).toEqual([
      {
        ok: true,
        values: {
          phone: '+441632960001',
          who: { given: 'Mara Anne', family: 'Quill' },
          agreed: true,
          total: { amount: '31.50', currency: 'EUR' },
          items: order.items,
          chosen: [order.items[0]],
          notes: ['gift', 'fragile'],
          first: 'chart',
          number: 77,
          gone: '',
        },
      },
    ]);
  });

  it('makes several submissions of one payload, with what is common and what is their own', () => {
    const document = postsOf(
      [at('phone', 'phone', '$.customer.phone'), at('sku', 'text', '@.sku'), sourceField('count', 'number')],
      {
        each: '$.items[*]',
      },
    );
    expect(read(document, order)).toEqual([
      { ok: true, values: { phone: '+441632960001', sku: 'chart', count: 2 } },
      { ok: true, values: { phone: '+441632960001', sku: 'torch', count: 1 } },
    ]);
    expect(read(document, { ...order, items: [{ sku: 'chart' }, { sku: ['x'] }] })).toMatchObject([
      { ok: true },
      { ok: false, issues: [{ field: 'sku', part: 1 }] },
    ]);
    expect(read(document, { customer: {} })).toHaveProperty('problem');
    expect(read(document, { items: Array.from({ length: 201 }, () => ({})) })).toHaveProperty('problem');
  });

  it.each<[string, SourceField['type'], unknown]>([
    ['an object for a text', 'text', { a: 1 }],
    ['a list for a number', 'number', [1, 2]],
    ['a text that is no date', 'date', '2026-02-30'],
    ['a text for records', 'list of records', 'chart'],
    ['a word for yes or no', 'yes/no', 'perhaps'],
    ['an amount without a currency', 'money', { amount: 3 }],
    ['something made up for a file', 'file', { file: 'F', name: 'map.pdf' }],
  ])('refuses %s', (_, type, value) =>
    expect(read(postsOf([sourceField('f', type)]), { f: value })).toMatchObject([
      { ok: false, issues: [{ field: 'f' }] },
    ]),
  );

  it('asks for what is required, and takes no for an answer', () => {
    const document = postsOf([sourceField('ok', 'yes/no', { required: true })]);
    expect(read(document, { ok: false })).toMatchObject([{ ok: true, values: { ok: false } }]);
    expect(read(document, {})).toMatchObject([{ ok: false }]);
    expect(read(document, { ok: null })).toMatchObject([{ ok: false }]);
  });

  it('takes form posts by their names as well', () => {
    const entries: Entries = [
      ['email', 'a@b.example'],
      ['likes', 'Moon'],
      ['likes', 'Sun'],
    ];
    expect(readPayload(postsOf(fields), { kind: 'entries', entries, files: [] }, STRANGER)).toEqual([
      { ok: true, values: { email: 'a@b.example', likes: ['Moon', 'Sun'], name: '' } },
    ]);
  });

  it('takes a file that came beside it, or stood in it and was stored', () => {
    const document = postsOf([at('plan', 'file', '$.files[0]')]);
    const json = { files: [{ name: 'map.pdf', content: 'JVBERi0=' }, 'data:text/plain;base64,aGk='] };
    const [embedded] = embeddedFiles(document, json);
    expect(embedded).toEqual({ location: ['files', 0], name: 'map.pdf', base64: 'JVBERi0=' });
    const stored = withValueAt(json, ['files', 0], { file: 'F', name: 'map.pdf' });
    expect(stored).toEqual({ files: [{ file: 'F', name: 'map.pdf' }, json.files[1]] });
    expect(read(document, stored, [{ name: '', value: map }])).toEqual([{ ok: true, values: { plan: map } }]);
    expect(read(document, {}, [{ name: 'plan', value: map }])).toEqual([{ ok: true, values: { plan: map } }]);
    const url = embeddedFiles(postsOf([at('plan', 'file', '$.files[1]')]), json);
    expect(url).toEqual([{ location: ['files', 1], name: 'plan', base64: 'aGk=' }]);
  });

  it('proposes fields for an example', () => {
    const proposed = inferFields({
      ...order,
      customer: { ...order.customer, firstName: 'Mara', email: 'm@q.example' },
    });
    expect(proposed.map(({ key, type, path, keepAs }) => [key, type, path, keepAs])).toEqual([
      ['id', 'number', '$.id', ''],
      ['phone', 'phone', '$.customer.phone', 'phone'],
      ['name', 'person name', '$.customer.name', 'full_name'],
      ['agreed', 'yes/no', '$.customer.agreed', ''],
      ['firstname', 'text', '$.customer.firstName', 'first_name'],
      ['email', 'email', '$.customer.email', 'email'],
      ['total', 'money', '$.total', ''],
      ['items', 'list of records', '$.items', ''],
      ['notes', 'several choices', '$.notes', ''],
    ]);
    expect(read(postsOf(proposed), order)).toMatchObject([{ ok: true }]);
  });
});

describe('the same request', () => {
  const content = (email: string, name = '') => contentOf(fields, { email, likes: [], name });
  it('is the same with capitals in the address', () =>
    expect(content('Mara@B.example')).toBe(content('mara@b.example')));
  it('is another with another answer', () =>
    expect(content('a@b.example', 'Mara')).not.toBe(content('a@b.example', 'mara')));
  it('is the same with the same file, though it is stored twice', () => {
    const files = [sourceField('plan', 'file')];
    expect(contentOf(files, { plan: map })).toBe(contentOf(files, { plan: { ...map, file: 'G', link: '/G' } }));
    expect(contentOf(files, { plan: map })).not.toBe(contentOf(files, { plan: { ...map, sha256: 'bb' } }));
  });
});

it('flat JSON is read like a form', () =>
  expect(entriesOf({ email: 'a@b.example', likes: ['Moon', 'Sun'], age: 7, yes: true, none: null })).toEqual([
    ['email', 'a@b.example'],
    ['likes', 'Moon'],
    ['likes', 'Sun'],
    ['age', '7'],
    ['yes', 'true'],
  ]));

it('what was stored before there were kinds of payload is read as entries', () =>
  expect(readRaw({ contentType: 'x', entries: [['a', 'b']], headers: {} })).toEqual({
    contentType: 'x',
    payload: { kind: 'entries', entries: [['a', 'b']], files: [] },
    headers: {},
  }));

describe('how it came', () => {
  const visit = (sent: Record<string, string>, headers: Record<string, string> = {}) =>
    readVisit((name) => sent[name], headers, 'phone');
  it('is said by the form, with the campaign of the page and nothing else of its address', () =>
    expect(
      visit(
        {
          form_page: 'https://a.example/letter?utm_campaign=comets&utm_source=poster&mail=x%40y.example#top',
          form_referrer: 'https://search.example/?q=moon',
          form_placement: 'footer',
        },
        { referer: 'https://a.example/' },
      ),
    ).toEqual({
      page: 'https://a.example/letter',
      referrer: 'https://search.example/',
      campaign: 'comets',
      source: 'poster',
      device: 'phone',
      placement: 'footer',
    }));
  it('or by the request', () =>
    expect(visit({}, { referer: 'https://a.example/b?utm_medium=mail' })).toEqual({
      page: 'https://a.example/b',
      medium: 'mail',
      device: 'phone',
    }));
  it.each([
    [{ referer: 'https://a.example/' }, 'https://a.example'],
    [{ origin: 'https://a.example' }, 'https://a.example'],
    [{ referer: 'https://a.example/?utm_medium=mail' }, 'https://a.example/'],
  ])('which names the site alone to other sites (W3C Referrer Policy): %j', (headers, page) => {
    expect(visit({}, headers).page).toBe(page);
    expect(isSite(page)).toBe(!page.endsWith('/'));
  });
  it('and the first page is one where the form says so', () =>
    expect(visit({ form_page: 'https://a.example/' }).page).toBe('https://a.example/'));
  it('or by campaign parameters among what was sent', () =>
    expect(visit({ utm_campaign: ' comets ' })).toEqual({ campaign: 'comets', device: 'phone' }));
  it.each(['javascript:alert(1)', 'nothing', ''])('takes no %j for a page', (page) =>
    expect(visit({ form_page: page })).toEqual({ device: 'phone' }),
  );
  it('stands beside the values for whatever draws on them', () =>
    expect(factsOf({ name: 'Mara' }, { page: 'https://a.example/' })).toEqual({
      name: 'Mara',
      '@page': 'https://a.example/',
    }));
});

describe('screening', () => {
  const suspicion = (minimumSeconds: number, trap: string, elapsedSeconds: number | null) =>
    suspicionOf(formOf(fields, { minimumSeconds }), { trap, elapsedSeconds, texts: [], isThrowAway: false });
  it('suspects who fills the trap', () => expect(suspicion(2, 'x', 60)).toBe('trap filled'));
  it('suspects who is too fast', () => expect(suspicion(2, '', 1.9)).toBe('too fast'));
  it('does not suspect people, nor those without script', () => {
    expect(suspicion(2, '', 2)).toBeNull();
    expect(suspicion(2, '', null)).toBeNull();
    expect(suspicion(0, '', 0)).toBeNull();
  });
  it.each<[Partial<Guards>, string[], boolean, string | null]>([
    [{ words: ['casino'] }, ['The best CÁSINO in town'], false, 'unwanted words'],
    [{ words: ['casino', ' '] }, ['A telescope'], false, null],
    [{ mostLinks: 1 }, ['See https://a.example', 'and www.b.example'], false, 'too many links'],
    [{ mostLinks: 1 }, ['See https://a.example'], false, null],
    [{ mostLinks: 0 }, ['no link'], false, null],
    [{ throwAway: true }, [], true, 'throw-away address'],
    [{}, ['casino https://a.example https://b.example'], true, null],
  ])('sets aside by %j what says %j, an address for minutes: %s', (guards, texts, isThrowAway, why) =>
    expect(
      suspicionOf(formOf(fields, { guards: { ...NO_GUARDS, ...guards } }), {
        trap: '',
        elapsedSeconds: null,
        texts,
        isThrowAway,
      }),
    ).toBe(why),
  );
  it('does not suspect programs, which have no eyes', () =>
    expect(
      suspicionOf(postsOf(fields), { trap: 'x', elapsedSeconds: 0, texts: ['casino'], isThrowAway: true }),
    ).toBeNull());
});

it('makes field names of labels', () => {
  expect(keyFor('What do you like best?', [])).toBe('what_do_you_like_best');
  expect(keyFor('Prénom', [])).toBe('prenom');
  expect(keyFor('2nd name', [])).toBe('nd_name');
  expect(keyFor('???', ['field'])).toBe('field_2');
});
