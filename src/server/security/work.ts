import { randomBytes } from 'node:crypto';
import { readSignedText, signText } from './stamps.ts';
import { sha256 } from './tokens.ts';

/** Zero bits at the beginning of the hash: some ten thousand tries, a second on a slow phone. */
export const WORK_BITS = 14;
const LASTS_MS = 5 * 60_000;

/** A task that costs whoever sends by the thousand more than whoever sends once. */
export const newTask = (key: string, formId: string, now: number): string =>
  signText(key, `work for ${formId}`, `${now}-${randomBytes(9).toString('base64url')}`);

/** Whether a task of ours was done: what is sent is the task, a colon, and a number. */
export function isDone(key: string, formId: string, sent: string, now: number): boolean {
  const [task = '', number = ''] = sent.split(':');
  if (!/^\d{1,12}$/.test(number)) return false;
  const text = readSignedText(key, `work for ${formId}`, task);
  if (text === null) return false;
  const at = Number(text.split('-')[0]);
  if (!(now - at < LASTS_MS)) return false;
  return BigInt(`0x${sha256(`${task}:${number}`)}`) >> BigInt(256 - WORK_BITS) === 0n;
}
