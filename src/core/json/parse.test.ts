import fc from 'fast-check';
import { expect, it } from 'vitest';
import { parseJson, parseJsonExactly } from './index.ts';

it.each([
  ['{"id":12345678901234567,"n":5}', { id: '12345678901234567', n: 5 }],
  ['[90071992547409931]', ['90071992547409931']],
  ['{"a":"12345678901234567","b":"x \\" 12345678901234567"}', { a: '12345678901234567', b: 'x " 12345678901234567' }],
  ['[0.1234567890123456, 1234567890123456.5, 1e400]', [0.1234567890123456, 1234567890123456.5, Infinity]],
  ['[-12345678901234567]', ['-12345678901234567']],
])('%s keeps all digits of whole numbers', (text, value) => expect(parseJsonExactly(text)).toEqual(value));

it('is the same as JSON for everything else', () =>
  fc.assert(
    fc.property(fc.json({ maxDepth: 4 }), (text) => {
      const value = parseJson(text);
      const isLong = JSON.stringify(value).match(/(?<![\d.])-?\d{16,}(?![\d.eE])/);
      if (!isLong) expect(parseJsonExactly(text)).toEqual(value);
    }),
  ));
