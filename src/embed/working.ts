import type { WorkWanted } from '../contract/placing.ts';

/**
 * Works out a number that makes the hash of a task begin with so many zero bits: nothing for one visitor, much for whoever sends by
 * the thousand. Asked for only where a form looks like a robot's.
 */
export async function workOut({ task, bits }: WorkWanted): Promise<string> {
  const write = new TextEncoder();
  for (let number = 0; ; number += 1) {
    const text = `${task}:${number}`;
    const hash = new Uint32Array(await crypto.subtle.digest('SHA-256', write.encode(text)));
    const first = new DataView(hash.buffer).getUint32(0);
    if (first >>> (32 - bits) === 0) return text;
  }
}

/** Whether it can be worked out here: browsers have the hash on secure pages alone. */
export const canWork = (): boolean => typeof crypto.subtle === 'object';
