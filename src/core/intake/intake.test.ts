import { describe, expect, it } from 'vitest';
import type { SourceField } from '../values/index.ts';
import { contentOf, readJson, readSubmission, screen } from './index.ts';

const base = { required: false, options: [], several: false, help: '', preset: '', keepAs: '' };
const fields: SourceField[] = [
  { ...base, key: 'email', label: 'Email', type: 'email', required: true },
  { ...base, key: 'likes', label: 'Likes', type: 'choice', options: ['Moon', 'Sun'], several: true },
  { ...base, key: 'name', label: 'Name', type: 'text' },
];

describe('reading a submission', () => {
  it('reads the fields of the source and leaves the rest alone', () => {
    const read = readSubmission(fields, [
      ['likes', 'Moon'],
      ['email', 'a@b.example'],
      ['likes', 'Sun'],
      ['unknown', 'x'],
    ]);
    expect(read).toEqual({ ok: true, values: { email: 'a@b.example', likes: ['Moon', 'Sun'], name: '' } });
  });

  it('puts together what was entered in parts, and takes it whole as well', () => {
    const parts: SourceField[] = [
      { ...base, key: 'who', label: 'Name', type: 'person name', required: true },
      { ...base, key: 'home', label: 'Home', type: 'postal address' },
    ];
    const entered = readSubmission(parts, [
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
    expect(readSubmission(parts, [['who', 'Quill, Mara Anne']])).toEqual({ ok: true, values: { who, home: '' } });
    const empty = readSubmission(parts, [
      ['who.given', ''],
      ['who.family', ' '],
    ]);
    expect(empty).toMatchObject({ ok: false, issues: [{ field: 'who' }] });
  });

  it('reads every type as it is held, and says what is wrong with it', () => {
    const typed: SourceField[] = [
      { ...base, key: 'when', label: 'When', type: 'date' },
      { ...base, key: 'heads', label: 'Heads', type: 'number' },
      { ...base, key: 'call', label: 'Phone', type: 'phone' },
    ];
    const written = (when: string, heads: string, call: string) =>
      readSubmission(typed, [
        ['when', when],
        ['heads', heads],
        ['call', call],
      ]);
    expect(written('2026-05-31', '24', '+44 1632 960001')).toEqual({
      ok: true,
      values: { when: '2026-05-31', heads: 24, call: '+441632960001' },
    });
    expect(written('2026-02-30', '0x1F', '')).toMatchObject({
      ok: false,
      issues: [{ field: 'when' }, { field: 'heads' }],
    });
  });

  it('names every wrong field at once', () => {
    const read = readSubmission(fields, [
      ['likes', 'Mars'],
      ['email', 'nobody'],
    ]);
    expect(!read.ok && read.issues.map(({ field }) => field)).toEqual(['email', 'likes']);
  });
});

describe('the same request', () => {
  const content = (email: string, name = '') => contentOf(fields, { email, likes: [], name });
  it('is the same with capitals in the address', () =>
    expect(content('Mara@B.example')).toBe(content('mara@b.example')));
  it('is another with another answer', () =>
    expect(content('a@b.example', 'Mara')).not.toBe(content('a@b.example', 'mara')));
});

describe('JSON', () => {
  it('is read like a form', () => {
    expect(readJson('{"email":"a@b.example","likes":["Moon","Sun"],"age":7,"yes":true,"none":null}')).toEqual([
      ['email', 'a@b.example'],
      ['likes', 'Moon'],
      ['likes', 'Sun'],
      ['age', '7'],
      ['yes', 'true'],
    ]);
  });
  it.each(['[]', '"x"', '{"a":{"b":1}}', '{', 'null'])('is refused when it is %s', (text) =>
    expect(readJson(text)).toBeNull(),
  );
});

describe('screening', () => {
  const rules = { minimumSeconds: 2 };
  it('suspects who fills the trap', () => expect(screen(rules, 'x', 60)).toBe('trap filled'));
  it('suspects who is too fast', () => expect(screen(rules, '', 1.9)).toBe('too fast'));
  it('does not suspect people, nor those without script', () => {
    expect(screen(rules, '', 2)).toBeNull();
    expect(screen(rules, '', null)).toBeNull();
    expect(screen({ minimumSeconds: 0 }, '', 0)).toBeNull();
  });
});
