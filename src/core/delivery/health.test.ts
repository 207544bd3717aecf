import { describe, expect, it } from 'vitest';
import { afterOutcome, HEALTHY, isTryingOut, takeFromBudget, type Cause, type Health } from './index.ts';

const after = (health: Health, cause: Cause | null, waitMs: number | null = null, now = 1_000) =>
  afterOutcome(health, cause, waitMs, now, 1);
/** So many failures, each after the rest that the one before brought; the rest is counted from a second on. */
const failing = (times: number): Health =>
  Array.from({ length: times }).reduce<Health>((health) => after({ ...health, restUntil: 0 }, 'unavailable'), HEALTHY);

describe('the circuit breaker of a connection', () => {
  it('opens after five failures of the service in a row, and for longer each time', () => {
    expect(failing(4)).toEqual({ failures: 4, restUntil: 0 });
    expect(failing(5)).toEqual({ failures: 5, restUntil: 3_000 });
    expect(failing(7).restUntil).toBe(9_000);
    expect(failing(40).restUntil).toBe(301_000);
    expect([isTryingOut(failing(4)), isTryingOut(failing(5))]).toEqual([false, true]);
  });
  it('counts what fails at the same time as the trouble of one moment', () => {
    const atOnce = Array.from({ length: 16 }).reduce<Health>((health) => after(health, 'time-out'), HEALTHY);
    expect(atOnce).toEqual({ failures: 5, restUntil: 3_000 });
    // What is tried after the rest counts again.
    expect(after(atOnce, 'time-out', null, 3_000)).toEqual({ failures: 6, restUntil: 7_000 });
    expect(after(atOnce, 'unavailable', 9_000)).toEqual({ failures: 5, restUntil: 10_000 });
  });
  it('closes with the first success', () => expect(after(failing(9), null)).toEqual(HEALTHY));
  it('does not count what concerns one person only', () => {
    for (const cause of ['address invalid', 'left there before', 'required field missing', 'value refused'] as const)
      expect(after(failing(4), cause)).toEqual(HEALTHY);
  });
  it('rests for as long as the service asks, also after a success, and never for more than a day', () => {
    expect(after(HEALTHY, 'rate limited', 30_000)).toEqual({ failures: 0, restUntil: 31_000 });
    expect(after(HEALTHY, null, 5_000)).toEqual({ failures: 0, restUntil: 6_000 });
    expect(after(HEALTHY, 'rate limited', 1e12).restUntil).toBe(24 * 3_600_000 + 1_000);
  });
});

describe('the budget that all workers share', () => {
  const pace = { perSecond: 2, burst: 4 };
  it('grants a burst, then as much as time gives back', () => {
    const first = takeFromBudget(0, pace, 10, 1_000);
    expect(first.granted).toBe(4);
    expect(takeFromBudget(first.fullAt, pace, 10, 1_000).granted).toBe(0);
    expect(takeFromBudget(first.fullAt, pace, 10, 2_000).granted).toBe(2);
    expect(takeFromBudget(first.fullAt, pace, 10, 60_000).granted).toBe(4);
  });
  it('takes nothing when nothing is granted', () =>
    expect(takeFromBudget(2_900, pace, 1, 1_000)).toEqual({ granted: 0, fullAt: 2_900 }));
});

it('a budget that was spent by a clock that ran ahead stands still for no longer than it takes to fill', () => {
  const pace = { perSecond: 2, burst: 4 };
  const back = takeFromBudget(10_000_000, pace, 4, 1_000);
  expect(back).toEqual({ granted: 0, fullAt: 3_000 });
  expect(takeFromBudget(back.fullAt, pace, 4, 2_000).granted).toBe(2);
});
