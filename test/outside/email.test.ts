import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { normaliseEmail, parseEmail } from '../../src/core/values/index.ts';

const accepts = (text: string) => parseEmail(text).ok;

// RFC 5321, 4.5.3.1.1 and 4.5.3.1.3 with erratum 1690: 64 octets before the @, 254 in all (from memory).
describe('against the limits of RFC 5321', () => {
  const domain = (length: number) =>
    Array.from({ length: length - 8 }, (_, at) => (at % 50 === 25 ? '.' : 'd')).join('') + '.example';
  it('takes 64 before the @, not 65', () => {
    expect(accepts(`${'l'.repeat(64)}@b.example`)).toBe(true);
    expect(accepts(`${'l'.repeat(65)}@b.example`)).toBe(false);
  });
  it('takes 254 in all, not 255', () => {
    const address = (length: number) => `a@${domain(length - 2)}`;
    expect([address(254).length, accepts(address(254))]).toEqual([254, true]);
    expect([address(255).length, accepts(address(255))]).toEqual([255, false]);
  });
});

// The package email-validator 2.0.4 ships its own test set (test.js); its lists are read from there.
describe('against the set of a general-purpose package', () => {
  const file = createRequire(import.meta.url)
    .resolve('email-validator')
    .replace(/index\.js$/, 'test.js');
  const source = readFileSync(file, 'utf8');
  const list = (name: string): string[] => {
    const body = new RegExp(`const ${name} =\\s*(\\[[\\s\\S]*?\\n\\]);`).exec(source)?.[1] ?? '[]';
    return [...body.matchAll(/^\s*"((?:[^"\\]|\\.)*)"/gm)].map(
      ([, text]) => JSON.parse(`"${(text ?? '').replace(/\\e|\\s|\\c|\\a|\\p|\\d/g, '')}"`) as string,
    );
  };
  it('has sets to compare with', () =>
    expect([list('validSupported').length, list('invalidSupported').length].every((count) => count > 10)).toBe(true));
  it.each(list('validSupported'))('takes %s', (text) => expect(accepts(text)).toBe(true));
  it.each(list('invalidSupported'))('refuses %s', (text) => expect(accepts(text)).toBe(false));
});

// Common practice, no published source: addresses are compared in lower case.
it('takes capitals for the same person', () => expect(normaliseEmail(' Mara@Hill.Example ')).toBe('mara@hill.example'));
