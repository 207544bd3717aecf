import { hash, verify } from '@node-rs/argon2';

/** OWASP's password storage advice for argon2id: 19 MiB, 2 passes, 1 lane (from memory). The package's default kind is argon2id. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** Half of a pair is no character, and none that anybody types: both sides write it in one way. */
const asTyped = (password: string): string => Buffer.from(password, 'utf8').toString('utf8');

export const hashPassword = (password: string): Promise<string> => hash(asTyped(password), COST);

/** A hash that no password matches, so that an unknown account takes as long to refuse as a known one. */
const NOBODYS_HASH = hashPassword(crypto.randomUUID());

export async function isPassword(passwordHash: string | null, password: string): Promise<boolean> {
  const matches = await verify(passwordHash ?? (await NOBODYS_HASH), asTyped(password));
  return passwordHash !== null && matches;
}
