import { describe, expect, it } from 'vitest';
import { formOf } from '../../../test/world/fields.ts';
import { readPayload } from '../intake/index.ts';
import { readForms } from './index.ts';

const fieldsOf = (html: string) => readForms(html)[0]?.fields.map(({ key, type, label }) => [key, type, label]);

describe('forms of others', () => {
  it('ask for the box, not for the hidden twin that stands before it', () =>
    expect(
      fieldsOf(
        '<form><input type=hidden name=news value=0><label><input type=checkbox name=news value=1> News</label><input type=hidden name=from value=web></form>',
      ),
    ).toEqual([
      ['news', 'yes/no', 'News'],
      ['from', 'text', 'From'],
    ]));

  it('go on taking telephone numbers as visitors write them, with or without a country', () => {
    const fields = readForms('<form><label>Phone <input type=tel name=phone required></label></form>')[0]?.fields ?? [];
    expect(fields).toMatchObject([{ key: 'phone', keepAs: 'phone', required: true }]);
    const read = (written: string) =>
      readPayload(
        formOf(fields),
        { kind: 'entries', entries: [['phone', written]], files: [] },
        { known: {}, now: Date.UTC(2026, 4, 31) },
      );
    for (const written of ['01632 960001', '+44 1632 960001', '(0)30 / 23125-123 after six'])
      expect(read(written)).toEqual([{ ok: true, values: { phone: written } }]);
  });

  it('may name what they like: no name is looked up among what objects have by themselves', () =>
    expect(
      fieldsOf('<form><input name=__proto__><input name=constructor><input type=constructor name=toString></form>'),
    ).toEqual([
      ['__proto__', 'text', 'Proto'],
      ['constructor', 'text', 'Constructor'],
      ['toString', 'text', 'To string'],
    ]));

  it('are read in a time that grows with them: each label is looked for once', () => {
    const many = (count: number) =>
      readForms(
        `<form>${Array.from({ length: count }, (_, at) => `<label for=i${at}>A ${at}</label><input id=i${at} name=n${at}>`).join('')}</form>`,
      );
    expect(many(600)[0]?.fields.at(-1)).toMatchObject({ key: 'n599', label: 'A 599' });
  });
});
