// Where things are. Every script resolves folders through here.
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
export const dist = path.join(root, 'dist');
export const dataDir = path.resolve(process.env.IWASHI_DATA ?? path.join(root, 'var'));

/** An error whose message is meant for the person at the keyboard; printed without a stack. */
export class ExpectedError extends Error {
  expected = true;
}
