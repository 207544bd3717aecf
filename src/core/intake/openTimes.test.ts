import { expect, it } from 'vitest';
import { areTimes, isOpenAt } from './index.ts';

const LONDON = { from: '2026-07-01T09:00', to: '2026-12-01T09:00', zone: 'Europe/London' };

it.each([
  // In July London is an hour before UTC, in December it is not.
  ['2026-07-01T07:59:59Z', false],
  ['2026-07-01T08:00:00Z', true],
  ['2026-12-01T08:59:59Z', true],
  ['2026-12-01T09:00:00Z', false],
])('at %s: %s', (moment, open) => expect(isOpenAt(LONDON, Date.parse(moment))).toBe(open));

it('is open without an end where none is said', () => {
  expect(isOpenAt({ from: '', to: '', zone: 'UTC' }, 0)).toBe(true);
  expect(isOpenAt({ ...LONDON, to: '' }, Date.parse('2100-01-01T00:00Z'))).toBe(true);
});

it.each([
  [LONDON, true],
  [{ ...LONDON, to: '' }, true],
  [{ ...LONDON, zone: 'Europe/Fennmoor' }, false],
  [{ ...LONDON, from: 'soon' }, false],
  [{ ...LONDON, to: '2026-02-30T09:00' }, false],
  [{ ...LONDON, to: '2026-06-01T09:00' }, false],
])('%j can be: %s', (times, can) => expect(areTimes(times)).toBe(can));
