import { describe, expect, it } from 'vitest';
import { isPublicAddress, namesForbiddenAddress } from './addresses.ts';
import { hashPassword, isPassword } from './passwords.ts';
import { loggedError } from './loggedErrors.ts';
import { SecretBox } from './secrets.ts';
import { newPublicId, newToken } from './tokens.ts';

it.each([
  ['::7f00:1', false],
  ['::127.0.0.1', false],
  ['2001:db8:85a3::7', false],
  ['2a00:1450:4001:82a::200e', true],
])('%s is public: %s', (address, isPublic) => expect(isPublicAddress(address)).toBe(isPublic));

describe('addresses that are not called', () => {
  // From the IANA registries of special-purpose addresses (RFC 6890 and those that update it; from memory).
  it.each([
    ['0.0.0.0', 'this network'],
    ['10.1.2.3', 'private'],
    ['100.64.0.1', 'shared'],
    ['127.0.0.1', 'loopback'],
    ['169.254.169.254', 'link-local'],
    ['172.16.0.1', 'private'],
    ['192.0.2.1', 'documentation'],
    ['192.168.1.1', 'private'],
    ['198.18.0.1', 'benchmarking'],
    ['203.0.113.7', 'documentation'],
    ['224.0.0.1', 'multicast'],
    ['255.255.255.255', 'broadcast'],
    ['::', 'unspecified'],
    ['::1', 'loopback'],
    ['::ffff:10.0.0.1', 'private, mapped'],
    ['fc00::1', 'unique local'],
    ['fe80::1', 'link-local'],
    ['2001:db8::1', 'documentation'],
  ])('%s (%s)', (address) => expect(isPublicAddress(address)).toBe(false));

  it.each(['8.8.8.8', '172.32.0.1', '192.169.0.1', '2606:4700::1111'])('%s is called', (address) =>
    expect(isPublicAddress(address)).toBe(true),
  );

  it('are found in a URL that names them outright, in any spelling that the URL parser knows', () => {
    for (const url of [
      'http://127.1/',
      'http://0x7f000001/',
      'http://2130706433/',
      'http://[::1]:8080/',
      'http://010.0.0.1/',
    ]) {
      expect([url, namesForbiddenAddress(new URL(url))]).toEqual([url, !url.includes('010')]);
    }
    expect(namesForbiddenAddress(new URL('https://tern.example'))).toBe(false);
  });
});

describe('secrets', () => {
  const box = new SecretBox(Buffer.alloc(32, 7).toString('base64'));

  it('open with their key only, and only unchanged', () => {
    const sealed = box.seal('tern-key');
    expect(box.open(sealed)).toBe('tern-key');
    expect(sealed).not.toContain('tern');
    const changed = Buffer.from(sealed, 'base64url');
    changed[changed.length - 1] = (changed.at(-1) ?? 0) ^ 1;
    expect(() => box.open(changed.toString('base64url'))).toThrow();
    expect(() => new SecretBox(Buffer.alloc(32, 8).toString('base64')).open(sealed)).toThrow();
  });

  it('look different each time', () => expect(box.seal('same')).not.toBe(box.seal('same')));

  it('need a key of 32 bytes', () => expect(() => new SecretBox('c2hvcnQ=')).toThrow('32 bytes'));
});

it('a password is recognised, another is not, and nobody has none', async () => {
  const hash = await hashPassword('lantern hill comet');
  expect(hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  expect(await isPassword(hash, 'lantern hill comet')).toBe(true);
  expect(await isPassword(hash, 'lantern hill')).toBe(false);
  expect(await isPassword(null, '')).toBe(false);
});

it('tokens are long, safe in URLs, and never the same', () => {
  const tokens = new Set(Array.from({ length: 200 }, newToken));
  expect(tokens.size).toBe(200);
  for (const token of tokens) expect(token).toMatch(/^[A-Za-z0-9_-]{43}$/);
  expect(newPublicId()).toMatch(/^[A-Za-z0-9]{12}$/);
});

describe('an error in the log', () => {
  it('says nothing of what was handed to the database, nor of what caused it', () => {
    const cause = Object.assign(new Error('Data too long'), { sql: "INSERT 'mara@hill.example'", errno: 1406 });
    const failed = Object.assign(new Error('Failed query: INSERT ?\nparams: mara@hill.example\nMara', { cause }), {
      params: ['mara@hill.example'],
      query: 'INSERT ?',
    });
    const logged = JSON.stringify(loggedError(failed));
    expect(logged).not.toContain('mara@hill.example');
    expect(logged).toContain('Failed query: INSERT ?');
    expect(logged).toContain('Data too long');
    expect(logged).toContain('security.test.ts');
  });
});
