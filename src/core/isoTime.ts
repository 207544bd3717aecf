/** A moment as it is told to others (ISO 8601, in UTC); null where there is none. @param at milliseconds since 1970 */
export function isoTime(at: number): string;
export function isoTime(at: number | null | undefined): string | null;
export function isoTime(at: number | null | undefined): string | null {
  return at === null || at === undefined ? null : new Date(at).toISOString();
}

/** A day as it is told to others (ISO 8601), in UTC. @param at milliseconds since 1970 */
export const isoDay = (at: number): string => isoTime(at).slice(0, 10);
