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
  return { watched, pass };
}

it('has times looked at once in the beginning, and nothing while the clock goes as it should, or drifts', () => {
  const { watched, pass } = watch();
  expect([watched.takeNotice(), watched.takeNotice(), watched.isUnsure()]).toEqual([true, false, false]);
  for (let at = 0; at < 50; at += 1) {
    pass(1_000, 20);
    expect([watched.takeNotice(), watched.isUnsure()]).toEqual([false, false]);
  }
});

it.each([3_600_000, -3_600_000])('notices a jump of %i ms once, and is unsure for as long as a lease lasts', (jump) => {
  const { watched, pass } = watch();
  watched.takeNotice();
  pass(100, jump);
  expect(watched.isUnsure()).toBe(true);
  expect([watched.takeNotice(), watched.takeNotice()]).toEqual([true, false]);
  pass(LEASE - 1);
  expect(watched.isUnsure()).toBe(true);
  pass(1);
  expect(watched.isUnsure()).toBe(false);
});
