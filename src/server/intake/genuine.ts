import { Webhook } from 'standardwebhooks';
import type { Proof } from '../../core/intake/index.ts';
import { isSameSecret, isSigned } from '../security/signatures.ts';

/** What a request brings that may show who sends it. */
export interface Shown {
  /** Gives a header by its name; '' for one that is not there. */
  header: (name: string) => string;
  /** What stands in the address behind the source's own part; '' for nothing. */
  inPath: string;
  /** As it came, byte for byte. */
  body: Uint8Array;
}

/**
 * Whether a request shows that whoever sends it knows the secret.
 * @param secret null while there is none: then nobody does
 */
export function isGenuine(proof: Proof, { header, inPath, body }: Shown, secret: string | null, now: number): boolean {
  if (proof.by === 'nothing') return inPath === '';
  if (secret === null || (proof.by !== 'path' && inPath !== '')) return false;
  switch (proof.by) {
    case 'path':
      return isSameSecret(inPath, secret);
    case 'bearer':
      return isSameSecret(/^bearer +(\S+) *$/i.exec(header('authorization'))?.[1] ?? '', secret);
    case 'basic': {
      // RFC 7617, 2: the user name ends at the first colon.
      const given = /^basic +(\S+) *$/i.exec(header('authorization'))?.[1] ?? '';
      return isSameSecret(Buffer.from(given, 'base64').toString('utf8'), `${proof.user}:${secret}`);
    }
    case 'header':
      return isSameSecret(header(proof.header), secret);
    case 'standard webhooks':
      try {
        const names = ['webhook-id', 'webhook-timestamp', 'webhook-signature'];
        new Webhook(secret).verify(Buffer.from(body), Object.fromEntries(names.map((name) => [name, header(name)])));
        return true;
      } catch {
        return false;
      }
    case 'signature':
      return isSigned(proof, { header, body, secret, now });
    default:
      return proof.by satisfies never;
  }
}

/** The headers that hold a secret, or what it made: they are kept nowhere. */
export const secretHeaders = ({ by, header }: Proof): string[] => [
  'authorization',
  'cookie',
  'proxy-authorization',
  ...(by === 'header' ? [header.toLowerCase()] : []),
];
