import { DateTime } from 'luxon';
import { bad, good, type Result } from '../result.ts';
import {
  dayIn,
  neededMessage,
  typeOf,
  UNKNOWN_MANNER,
  type FieldValue,
  type Membership,
  type SourceField,
} from '../values/index.ts';
import type { MembershipPaths } from './membershipPaths.ts';
import { foundFor, type Located } from './places.ts';

/**
 * Reads a membership out of several places: a level, and days or moments, which are days of the zone. Nothing at all of it is none.
 * @param zone a name of the IANA time zone database
 */
export function readMembership(
  field: SourceField,
  { paths, zone }: { paths: MembershipPaths; zone: string },
  whole: Located,
  part: Located,
): Result<FieldValue> {
  const at = (path: string): string => {
    if (path === '') return '';
    const [found] = foundFor({ path, key: '' }, whole, part);
    const value = found?.value;
    return typeof value === 'string' || typeof value === 'number' ? String(value).trim() : '';
  };
  const level = at(paths.level);
  const days = [at(paths.begins), at(paths.ends)].map((written) => dayOf(written, zone));
  if (level === '' && days.every((day) => day === '')) return field.required ? bad(neededMessage(field)) : good('');
  return typeOf('membership').parse([level.replace(/\s+/g, ' '), ...days].join('\n'), UNKNOWN_MANNER);
}

/** From 1973 on, moments are told in seconds with 9 digits or more, or in milliseconds with 12. */
const SECONDS = /^\d{9,11}$/;
const MILLISECONDS = /^\d{12,14}$/;

/** The day of a moment in a zone; what is written as a day stays as it is. */
function dayOf(written: string, zone: string): string {
  if (SECONDS.test(written)) return dayIn(zone, Number(written) * 1000);
  if (MILLISECONDS.test(written)) return dayIn(zone, Number(written));
  if (!/^\d{4}-\d\d-\d\d[T ]\d/.test(written)) return written;
  // Without an offset of its own it is the time of that zone.
  const moment = DateTime.fromISO(written.replace(' ', 'T'), { zone });
  return moment.isValid ? (moment.setZone(zone).toISODate() ?? written) : written;
}

/** A membership as one of a zone. */
export const inZone = (value: FieldValue, zone: string): FieldValue =>
  typeof value === 'object' && 'begins' in value && zone !== 'UTC' ? { ...value, zone } : value;

/** When a membership has ended: as soon as the last day is over where it is. null for one without an end. In milliseconds since 1970 */
export function endOf({ ends, zone = 'UTC' }: Membership): number | null {
  if (ends === '') return null;
  const after = DateTime.fromISO(ends, { zone }).plus({ days: 1 }).startOf('day');
  return after.isValid ? after.toMillis() : null;
}
