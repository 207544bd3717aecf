import { hash, randomBytes } from 'node:crypto';

/** An unguessable token for links and cookies: 256 bits, safe in URLs. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** A short unguessable name for public addresses. */
export const newPublicId = (): string => randomBytes(9).toString('base64url').replace(/[-_]/g, 'x');

/** SHA-256 in hexadecimal: how tokens and contents are kept at rest. */
export const sha256 = (text: string): string => hash('sha256', text, 'hex');

/** By what a session is called for people: nothing that lets anybody in. @param tokenHash of the token that its browser holds */
export const sessionId = (tokenHash: string): string => sha256(`session ${tokenHash}`).slice(0, 24);
