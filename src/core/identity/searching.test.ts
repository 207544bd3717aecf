import { describe, expect, it } from 'vitest';
import { searchTermsOf, searchWordsOf } from './index.ts';

const person = { email: 'Zoë.Quill@mail.hill.example', phone: '+44 1632 960 123', name: 'Zoë Starling-Müller' };

/** Whether a search finds a person. */
const finds = (text: string, who = person): boolean => {
  const words = searchWordsOf(who);
  const terms = searchTermsOf(text);
  return terms.length > 0 && terms.every((term) => words.some((word) => word.startsWith(term)));
};

describe('a person is found', () => {
  it.each([
    'zoe',
    'ZOË',
    'star',
    'starling-m',
    'mull',
    'Müll',
    'zoe mull',
    'mull zoe',
    'zoe.quill@mail',
    'quill',
    '@mail.hill',
    'mail.hill.example',
    'hill',
    '441632',
    '+44 1632',
    '1632 960',
    '960123',
  ])('by %s', (text) => expect(finds(text)).toBe(true));
  it.each(['oe', 'uill', 'zoe ada', '123 456', '', '   ', '%', '@'])('not by %j', (text) =>
    expect(finds(text)).toBe(false),
  );
  it('whatever the name is written in', () => {
    const who = { email: '', phone: '', name: 'Олена Đặng 山田' };
    expect(['олена', 'Оле', 'dang', '山'].map((text) => finds(text, who))).toEqual([true, true, false, true]);
  });
  it('by words of a length that an index takes', () => {
    const words = searchWordsOf({ email: `${'a'.repeat(200)}@b.example`, phone: '', name: '' });
    expect(Math.max(...words.map(({ length }) => length))).toBe(60);
  });
});
