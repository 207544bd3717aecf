import { createHash } from 'node:crypto';
import fc from 'fast-check';
import humanparser from 'humanparser';
import { describe, expect, it } from 'vitest';
import { applyStep, type StepKind, type StepOptions } from '../../src/core/mapping/index.ts';
import { splitName } from '../../src/core/mapping/steps/splitName.ts';
import type { FieldValue } from '../../src/core/values/index.ts';

const facts = { values: {}, now: 0 };
const after = (kind: StepKind, options: StepOptions, value: FieldValue) => applyStep({ kind, options }, value, facts);

/** The names that the package humanparser (2.7.0, MIT) is tested with, test/index.js; what it makes of them is asked of itself. */
const NAMES = [
  'Mr. William R. Hearst, III',
  'William Randolph Hearst',
  'William R. De La Cruz',
  'Mr. William R. De La Cruz III',
  'William De Cruz',
  'William De La Cruz',
  'Mr. William R. Hugh Calum De La Cruz III',
  'William A. B. De La Cruz',
  'James Hugh Calum Laurie',
  'Kiefer William Frederick Dempsey George Rufus Sutherland',
  'William Hearst',
  'William Hearst Jr',
  'Hearst, William Jr',
  'Hearst, William Randolph',
  'Hearst Jr., William Randolph',
  'Hearst, William, M.D.',
  'William',
  'Mr. Hearst',
  'Mr. Hearst Jr.',
  'hussain al robeh',
  'EUGENE L. NATH,JR.',
  'LEE TANT , JR',
  'Tuan Syed Azmin Nur',
];

describe('splitting names, beside humanparser', () => {
  it.each(NAMES)('%s', (name) => {
    // Its types promise more than it gives: a name without one has no first name.
    const theirs: Partial<ReturnType<typeof humanparser.parseName>> = humanparser.parseName(name);
    expect(splitName(name)).toEqual({
      title: theirs.salutation ?? '',
      given: theirs.firstName ?? '',
      middle: theirs.middleName ?? '',
      family: theirs.lastName ?? '',
      suffix: theirs.suffix ?? '',
    });
  });
});

/** Common practice in these languages; no published table. */
describe('splitting names of other orders', () => {
  it.each([
    ['Nagy Ilona Mária', 'hu', { family: 'Nagy', given: 'Ilona', middle: 'Mária' }],
    ['Nguyễn Thị Minh', 'vi', { family: 'Nguyễn', given: 'Minh', middle: 'Thị' }],
    ['山田 花子', 'ja', { family: '山田', given: '花子' }],
    ['Inés Campo Rivero', 'es', { given: 'Inés', family: 'Campo Rivero' }],
    ['Inés María de la Torre y Campo', 'es', { given: 'Inés', middle: 'María', family: 'de la Torre y Campo' }],
    [
      'Prof. Dr. Anna Lena von der Halde',
      'de',
      { title: 'Prof. Dr.', given: 'Anna', middle: 'Lena', family: 'von der Halde' },
    ],
    ['Van Quill', '', { given: 'Van', family: 'Quill' }],
    ['Mara', '', { given: 'Mara', family: '' }],
    ['', '', { given: '', family: '' }],
  ])('%s (%s)', (name, language, parts) => expect(splitName(name, language)).toMatchObject(parts));
});

describe('hashes', () => {
  // FIPS 180-4, the examples that NIST gives for SHA-256 of one and of two blocks; from memory.
  it.each([
    ['abc', 'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'],
    [
      'abcdbcdecdefdefgefghfghighijhijkijkljklmklmnlmnomnopnopq',
      '248d6a61d20638b8e5c026930c3e6039a33ce45964ff2167f6ecedd419db06c1',
    ],
  ])('of %s is %s', (text, value) => {
    expect(after('hash', {}, text)).toEqual({ ok: true, value });
    expect(after('hash', {}, ` ${text.toUpperCase()} `)).toEqual({ ok: true, value });
  });

  it('are those of OpenSSL, through Node', () =>
    fc.assert(
      fc.property(fc.emailAddress(), (address) => {
        const value = createHash('sha256').update(address.toLowerCase()).digest('hex');
        expect(after('hash', {}, address)).toEqual({ ok: true, value });
      }),
    ));
});

describe('currencies', () => {
  // ISO 4217: the minor unit of each, as its list of currency codes has it; from memory.
  it.each([
    ['EUR', 100],
    ['JPY', 1],
    ['KWD', 1000],
    ['GBP', 100],
    ['ISK', 1],
  ])('%s has %i smallest units', (currency, units) =>
    expect(after('part of an amount', { part: 'smallest units' }, { amount: '1', currency })).toEqual({
      ok: true,
      value: units,
    }),
  );
});

describe('numbers and dates of languages', () => {
  // CLDR's formats, through Intl, read again by the step that reads them.
  it.each(['en-GB', 'de', 'fr', 'pl', 'sv', 'de-CH', 'pt-BR', 'hi', 'ar-EG', 'ru'])('%s', (language) => {
    const written = after('write a number', { language, places: 2, groups: 'yes' }, 1234567.5);
    expect(written.ok && after('read a number', { language }, written.value)).toEqual({ ok: true, value: 1234567.5 });
    const pattern = 'd MMMM yyyy';
    const day = after('write a date', { language, pattern }, '2026-03-09');
    expect(day.ok && after('read a date', { language, pattern }, day.value)).toEqual({ ok: true, value: '2026-03-09' });
  });
});
