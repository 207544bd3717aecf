import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { hmacSha256, readSignedTime, signTime } from '../../src/server/security/stamps.ts';

interface Vector {
  key: string;
  data: string;
  sha256: string;
  truncate?: number;
}

// RFC 4231's test cases, as the package hash-test-vectors 1.3.2 carries them: six of the seven (hmac.json, in hexadecimal).
const vectors = createRequire(import.meta.url)('hash-test-vectors/hmac.json') as Vector[];

describe('HMAC-SHA-256 against RFC 4231', () => {
  it('has six cases', () => expect(vectors).toHaveLength(6));
  it.each(vectors.map((vector, index) => [index + 1, vector] as const))(
    'case %i',
    (_, { key, data, sha256, truncate }) => {
      const mac = hmacSha256(Buffer.from(key, 'hex'), Buffer.from(data, 'hex'));
      expect(truncate ? mac.slice(0, truncate * 2) : mac).toBe(sha256);
    },
  );
});

it('does not take a time that somebody else wrote', () => {
  const stamp = signTime('key', 1_700_000_000_000);
  expect(readSignedTime('key', stamp)).toBe(1_700_000_000_000);
  expect(readSignedTime('other', stamp)).toBeNull();
  expect(readSignedTime('key', stamp.replace('17', '16'))).toBeNull();
  expect(readSignedTime('key', 'nonsense')).toBeNull();
});
