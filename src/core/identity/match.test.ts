import { describe, expect, it } from 'vitest';
import { sourceField } from '../../../test/world/fields.ts';
import type { SourceField } from '../values/index.ts';
import { changesTo, identifyingFields, keysOf, type KnownContact } from './index.ts';

const field = (key: string, type: SourceField['type'], keepAs = '') => sourceField(key, type, { keepAs });

const NAME = field('name', 'text', 'full_name');
const OWN = field('mail', 'email', 'email');
const FRIEND = field('friend', 'email');
const OTHER = field('other', 'email');
const INVOICES = field('invoices', 'email', 'invoice_email');

describe('who a submission is of', () => {
  it.each<[string, SourceField[], string[]]>([
    ['the address that is kept as theirs', [FRIEND, NAME, OWN], ['mail']],
    ['the first address, where none is kept', [NAME, FRIEND, OTHER], ['friend']],
    ['nobody, where an address is kept as something else', [NAME, INVOICES], []],
    ['nobody, where there is no address', [NAME], []],
  ])('%s', (_, fields, keys) => expect(identifyingFields(fields).map(({ key }) => key)).toEqual(keys));

  it("a friend's address never makes it the friend's", () => {
    const values = { mail: 'mara@hill.example', friend: 'ulric@hill.example' };
    expect(keysOf([FRIEND, OWN], values)).toEqual([{ kind: 'email', value: 'mara@hill.example' }]);
    expect(keysOf([FRIEND, OWN], { friend: 'ulric@hill.example' })).toEqual([]);
  });

  it('whatever the capitals and blanks', () =>
    expect(keysOf([OWN], { mail: ' Mara@Hill.Example ' })).toEqual([{ kind: 'email', value: 'mara@hill.example' }]));
});

describe('what a submission changes in what is known', () => {
  const known = (values: KnownContact['values']): KnownContact => ({
    id: 'C',
    matchedBy: { kind: 'email', value: 'mara@hill.example' },
    values,
  });
  const fields = [OWN, NAME, field('likes', 'several choices', 'interests'), field('page', 'text')];

  it('everything that is kept, of somebody new', () =>
    expect(changesTo(null, fields, { mail: 'Mara@Hill.example', name: 'Mara', page: 'sky-letter' })).toEqual([
      { name: 'email', from: null, to: 'mara@hill.example', when: 'now' },
      { name: 'full_name', from: null, to: 'Mara', when: 'now' },
    ]));

  it('only what is another now, with what it was', () =>
    expect(
      changesTo(known({ email: 'mara@hill.example', full_name: 'Mara' }), fields, {
        mail: 'MARA@hill.example',
        name: 'Mara Quill',
      }),
    ).toEqual([{ name: 'full_name', from: 'Mara', to: 'Mara Quill', when: 'now' }]));

  it.each([[''], [[]], [undefined]])('nothing by an empty answer: %j', (answer) =>
    expect(
      changesTo(known({ full_name: 'Mara', interests: ['planets'] }), fields, {
        ...(answer === undefined ? {} : { name: typeof answer === 'string' ? answer : 'Mara', likes: answer }),
      }),
    ).toEqual([]),
  );

  it('several answers as one value', () =>
    expect(changesTo(known({ interests: ['planets'] }), fields, { likes: ['planets', 'comets'] })).toEqual([
      { name: 'interests', from: ['planets'], to: ['planets', 'comets'], when: 'now' },
    ]));
});
