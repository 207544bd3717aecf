import { DateTime, IANAZone } from 'luxon';
import type { OpenTimes } from './source.ts';

const momentOf = (local: string, zone: string): DateTime => DateTime.fromISO(local, { zone });

/** Whether something is open at a moment. @param now milliseconds since 1970 */
export function isOpenAt({ from, to, zone }: OpenTimes, now: number): boolean {
  if (from !== '' && momentOf(from, zone).toMillis() > now) return false;
  return to === '' || momentOf(to, zone).toMillis() > now;
}

/** Whether a zone is in the IANA time zone database. */
export const isZone = (zone: string): boolean => IANAZone.isValidZone(zone);

/** Whether the times can be: each is one, and the end is behind the beginning. */
export function areTimes({ from, to, zone }: OpenTimes): boolean {
  if (!isZone(zone)) return false;
  const [begin, end] = [from, to].map((time) => (time === '' ? null : momentOf(time, zone)));
  if (begin?.isValid === false || end?.isValid === false) return false;
  return !begin || !end || begin < end;
}
