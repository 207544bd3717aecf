import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';

const NONCE_BYTES = 12;
const TAG_BYTES = 16;

/** Encrypts secrets for storage with AES-256-GCM; the key never enters the database. */
export class SecretBox {
  readonly #key: Buffer;

  /** @param key 32 bytes, in base64 or base64url */
  constructor(key: string) {
    this.#key = Buffer.from(key, 'base64');
    if (this.#key.length !== 32) throw new Error('IWASHI_SECRET_KEY has to be 32 bytes in base64.');
  }

  seal(text: string): string {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv('aes-256-gcm', this.#key, nonce);
    const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), sealed]).toString('base64url');
  }

  /** @throws when the text was sealed with another key, or changed */
  open(sealed: string): string {
    const bytes = Buffer.from(sealed, 'base64url');
    const decipher = createDecipheriv('aes-256-gcm', this.#key, bytes.subarray(0, NONCE_BYTES));
    decipher.setAuthTag(bytes.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
    return Buffer.concat([decipher.update(bytes.subarray(NONCE_BYTES + TAG_BYTES)), decipher.final()]).toString('utf8');
  }
}
