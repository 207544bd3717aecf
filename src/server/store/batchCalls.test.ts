import { describe, expect, it } from 'vitest';
import { batchCalls } from './batchCalls.ts';

/** A call that can be let go on. */
function held() {
  const calls: { items: number[]; end: (answers?: number[]) => void; fail: (error: Error) => void }[] = [];
  const call = (items: number[]) =>
    new Promise<number[]>((resolve, reject) => {
      calls.push({ items, end: (answers = items.map((item) => 10 * item)) => resolve(answers), fail: reject });
    });
  return { calls, call };
}

describe('what comes at the same time', () => {
  it('goes at once where nothing is under way, and together where something is', async () => {
    const { calls, call } = held();
    const store = batchCalls(call, { atOnce: 1, most: 10 });
    const answers = Promise.all([1, 2, 3].map((item) => store(item)));
    expect(calls.map(({ items }) => items)).toEqual([[1]]);
    calls[0]?.end();
    await Promise.resolve();
    await new Promise((resolve) => setTimeout(resolve));
    expect(calls.map(({ items }) => items)).toEqual([[1], [2, 3]]);
    calls[1]?.end();
    expect(await answers).toEqual([10, 20, 30]);
  });
  it('goes by as many calls as may be at once, each with no more than it may have', async () => {
    const { calls, call } = held();
    const store = batchCalls(call, { atOnce: 2, most: 2 });
    const answers = Promise.all([1, 2, 3, 4, 5].map((item) => store(item)));
    expect(calls.map(({ items }) => items)).toEqual([[1], [2]]);
    calls[1]?.end();
    await new Promise((resolve) => setTimeout(resolve));
    expect(calls.map(({ items }) => items)).toEqual([[1], [2], [3, 4]]);
    calls[0]?.end();
    await new Promise((resolve) => setTimeout(resolve));
    for (const { end } of calls) end();
    await new Promise((resolve) => setTimeout(resolve));
    for (const { end } of calls) end();
    expect(await answers).toEqual([10, 20, 30, 40, 50]);
  });
  it('fails together where the whole call fails, and what comes after is not touched by it', async () => {
    const { calls, call } = held();
    const store = batchCalls(call, { atOnce: 1, most: 10 });
    const first = store(1);
    const second = store(2);
    calls[0]?.fail(new Error('gone'));
    await expect(first).rejects.toThrow('gone');
    calls[1]?.end();
    expect(await second).toBe(20);
  });
});
