import { expect, it } from 'vitest';
import { ClockWatch } from './clockWatch.ts';

const LEASE = 15_000;

function watch() {
  const clock = { wall: 1_000_000, steady: 0 };
  const watched = new ClockWatch(
    LEASE,
    () => clock.wall,
    () => clock.steady,
  );
  const pass = (ms: number, jump = 0) => {
    clock.steady += ms;
    clock.wall += ms + jump;
  };
  /** Whether times are put right now. */
  const straightens = async () => {
    let isDone = false;
    await watched.afterJump(() => Promise.resolve(void (isDone = true)));
    return isDone;
  };
  return { watched, pass, straightens };
}

it('has times looked at once in the beginning, and nothing while the clock goes as it should, or drifts', async () => {
  const { watched, pass, straightens } = watch();
  expect([await straightens(), await straightens(), watched.isUnsure()]).toEqual([true, false, false]);
  for (let at = 0; at < 50; at += 1) {
    pass(1_000, 20);
    expect([await straightens(), watched.isUnsure()]).toEqual([false, false]);
  }
});

it.each([3_600_000, -3_600_000])(
  'notices a jump of %i ms once, and is unsure for as long as a lease lasts',
  async (jump) => {
    const { watched, pass, straightens } = watch();
    await straightens();
    pass(100, jump);
    expect(watched.isUnsure()).toBe(true);
    expect([await straightens(), await straightens()]).toEqual([true, false]);
    pass(LEASE - 1);
    expect(watched.isUnsure()).toBe(true);
    pass(1);
    expect(watched.isUnsure()).toBe(false);
  },
);

it('has times put right again, where that failed', async () => {
  const { watched, straightens } = watch();
  await expect(watched.afterJump(() => Promise.reject(new Error('the database is away')))).rejects.toThrow('away');
  expect([await straightens(), await straightens()]).toEqual([true, false]);
});
