import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import type { FieldValues, KeepRule, SourceField, Trust } from '../values/index.ts';
import {
  changesTo,
  identify,
  identifyingFields,
  keysOf,
  presentRecord,
  type Candidate,
  type Claim,
  type ContactKey,
} from './index.ts';

const field = (key: string, type: SourceField['type'], keepAs = '') => sourceField(key, type, { keepAs });

const NAME = field('name', 'text', 'full_name');
const OWN = field('mail', 'email', 'email');
const FRIEND = field('friend', 'email');
const OTHER = field('other', 'email');
const INVOICES = field('invoices', 'email', 'invoice_email');
const PHONE = field('call', 'phone', 'phone');
const OFFICE = field('office', 'phone');
const NUMBER = field('customer', 'number', 'id');

describe('who a submission is of', () => {
  it.each<[string, SourceField[], string[]]>([
    ['the address that is kept as theirs', [FRIEND, NAME, OWN], ['mail']],
    ['the first address, where none is kept', [NAME, FRIEND, OTHER], ['friend']],
    ['nobody, where an address is kept as something else', [NAME, INVOICES], []],
    ['nobody, where there is no address', [NAME, OFFICE], []],
    ['an id, then an address, then a number', [PHONE, OWN, NUMBER], ['customer', 'mail', 'call']],
  ])('%s', (_, fields, keys) => expect(identifyingFields(fields).map(({ key }) => key)).toEqual(keys));

  it("a friend's address never makes it the friend's", () => {
    const values = { mail: 'mara@hill.example', friend: 'ulric@hill.example' };
    expect(keysOf([FRIEND, OWN], values, 'S')).toEqual([{ kind: 'email', value: 'mara@hill.example' }]);
    expect(keysOf([FRIEND, OWN], { friend: 'ulric@hill.example' }, 'S')).toEqual([]);
  });

  it('whatever the capitals and blanks', () =>
    expect(keysOf([OWN], { mail: ' Mara@Hill.Example ' }, 'S')).toEqual([
      { kind: 'email', value: 'mara@hill.example' },
    ]));

  it('an id means something within its system only', () =>
    expect(keysOf([NUMBER, PHONE], { customer: 77, call: '+441632960001' }, 'shop')).toEqual([
      { kind: 'id', scope: 'shop', value: '77' },
      { kind: 'phone', value: '+441632960001' },
    ]));
});

describe('identifying', () => {
  const email = (value: string): ContactKey => ({ kind: 'email', value });
  const phone: ContactKey = { kind: 'phone', value: '+441632960001' };
  const id: ContactKey = { kind: 'id', scope: 'shop', value: '77' };
  const mara = (by: ContactKey, keys: ContactKey[] = [by], name = 'Mara Quill'): Candidate => ({
    id: 'mara',
    by,
    keys,
    name,
  });
  const ulric = (by: ContactKey): Candidate => ({ id: 'ulric', by, keys: [by], name: 'Ulric Hill' });

  it.each<[string, ContactKey[], string, Candidate[], unknown]>([
    ['nobody is known', [email('a@b.example')], '', [], { sure: null, possible: [] }],
    [
      'an address is enough',
      [email('a@b.example')],
      'Another Name',
      [mara(email('a@b.example'))],
      { sure: { id: 'mara' } },
    ],
    [
      'an id is enough, and surer',
      [id, email('a@b.example')],
      '',
      [mara(id), ulric(email('a@b.example'))],
      {
        sure: { id: 'mara', by: id },
        possible: [{ id: 'ulric', because: 'another key is surer' }],
      },
    ],
    ['a number is enough where nothing speaks against it', [phone], '', [mara(phone)], { sure: { id: 'mara' } }],
    ['a number and the same name', [phone], 'mara  QUILL', [mara(phone)], { sure: { id: 'mara' } }],
    ['a number and a name with other marks', [phone], 'Mára Quill', [mara(phone)], { sure: { id: 'mara' } }],
    [
      'a number and another name may be a household',
      [phone],
      'Ulric Quill',
      [mara(phone)],
      {
        sure: null,
        possible: [{ id: 'mara', because: 'another name' }],
      },
    ],
    [
      'a number and another address may be two people',
      [email('x@y.example'), phone],
      'Mara Quill',
      [mara(phone, [phone, email('a@b.example')])],
      {
        sure: null,
        possible: [{ id: 'mara', because: 'another address' }],
      },
    ],
    [
      'a number, where the address is new to them',
      [email('x@y.example'), phone],
      'Mara Quill',
      [mara(phone)],
      {
        sure: { id: 'mara', by: phone },
      },
    ],
    [
      'an address of one and the number of another',
      [email('a@b.example'), phone],
      '',
      [mara(email('a@b.example')), ulric(phone)],
      {
        sure: { id: 'mara' },
        possible: [{ id: 'ulric', because: 'another key is surer' }],
      },
    ],
    [
      'two keys of one person',
      [email('a@b.example'), phone],
      '',
      [mara(email('a@b.example')), mara(phone)],
      {
        sure: { id: 'mara' },
        possible: [],
      },
    ],
  ])('%s', (_, keys, name, candidates, expected) =>
    expect(identify(keys, name, candidates)).toMatchObject(expected as object),
  );
});

describe('what a submission changes in what is known', () => {
  const known = (values: FieldValues) => ({ id: 'C', address: '', values });
  const fields = [OWN, NAME, field('likes', 'several choices', 'interests'), field('page', 'text')];

  it('everything that is kept, of somebody new', () =>
    expect(changesTo(null, fields, { mail: 'Mara@Hill.example', name: 'Mara', page: 'sky-letter' })).toEqual([
      { name: 'email', from: null, to: 'mara@hill.example', rule: 'latest', trust: 'usual', when: 'now' },
      { name: 'full_name', from: null, to: 'Mara', rule: 'latest', trust: 'usual', when: 'now' },
    ]));

  it('only what is another now, with what it was', () =>
    expect(
      changesTo(known({ email: 'mara@hill.example', full_name: 'Mara' }), fields, {
        mail: 'MARA@hill.example',
        name: 'Mara Quill',
      }),
    ).toEqual([{ name: 'full_name', from: 'Mara', to: 'Mara Quill', rule: 'latest', trust: 'usual', when: 'now' }]));

  it.each([[''], [[]], [undefined]])('nothing by an empty answer: %j', (answer) =>
    expect(
      changesTo(known({ full_name: 'Mara', interests: ['planets'] }), fields, {
        ...(answer === undefined ? {} : { name: typeof answer === 'string' ? answer : 'Mara', likes: answer }),
      }),
    ).toEqual([]),
  );

  it('several answers as one value', () =>
    expect(changesTo(known({ interests: ['planets'] }), fields, { likes: ['planets', 'comets'] })).toEqual([
      { name: 'interests', from: ['planets'], to: ['planets', 'comets'], rule: 'latest', trust: 'usual', when: 'now' },
    ]));

  it.each<[KeepRule, string, string[]]>([
    ['latest', 'M', ['full_name']],
    ['first', 'Mara Anne Quill', []],
    ['longest', 'M', []],
    ['longest', 'Mara Anne Quill', ['full_name']],
  ])('as the rule of its field says: %s, %s', (keepRule, name, changed) =>
    expect(
      changesTo(known({ full_name: 'Mara Quill' }), [{ ...NAME, keepRule }], { name }).map((change) => change.name),
    ).toEqual(changed),
  );

  it.each<[before: Trust | undefined, now: Trust, changed: string[]]>([
    [undefined, 'usual', ['full_name']],
    [undefined, 'less', []],
    ['more', 'usual', []],
    ['more', 'more', ['full_name']],
    ['less', 'usual', ['full_name']],
  ])('as its source is trusted: known of one trusted %s, told by one trusted %s', (before, now, changed) => {
    const person = { ...known({ full_name: 'Mara Quill' }), ...(before ? { trusts: { full_name: before } } : {}) };
    const told = changesTo(person, [{ ...NAME, keepRule: 'most trusted' }], { name: 'Mara' }, now);
    expect(told.map((change) => change.name)).toEqual(changed);
    for (const { trust } of told) expect(trust).toBe(now);
  });
});

describe('the present record', () => {
  const claim = (id: string, at: number, value: string, rule: KeepRule = 'latest', trust: Trust = 'usual'): Claim => ({
    id,
    name: 'full_name',
    value,
    rule,
    trust,
    at,
  });
  const present = (...claims: Claim[]) => presentRecord(claims).get('full_name')?.value;
  it('does not depend on the order in which claims are read', () => {
    const claims = [claim('b', 2, 'Mara Q'), claim('a', 1, 'Mara'), claim('c', 2, 'M', 'longest')];
    expect(present(...claims)).toBe('Mara Q');
    expect(present(...[...claims].reverse())).toBe('Mara Q');
  });
  it('keeps what was first where the rule says so', () =>
    expect(present(claim('a', 1, 'Mara'), claim('b', 2, 'Mara Quill', 'first'))).toBe('Mara'));
  it('keeps what the more trusted source says, and the latest of two that are trusted alike', () => {
    const said = (id: string, at: number, value: string, trust: Trust) => claim(id, at, value, 'most trusted', trust);
    const mara = said('a', 1, 'Mara', 'usual');
    expect(present(mara, said('b', 2, 'M', 'less'))).toBe('Mara');
    expect(present(mara, said('b', 2, 'Mara Quill', 'usual'))).toBe('Mara Quill');
    expect(present(said('b', 1, 'Mara Quill', 'more'), said('c', 2, 'Mara', 'usual'))).toBe('Mara Quill');
    expect(present(said('b', 1, 'M', 'less'), said('c', 2, 'Mara', 'usual'))).toBe('Mara');
  });
  it('is nothing where nothing was said', () => expect(present()).toBeUndefined());
});
