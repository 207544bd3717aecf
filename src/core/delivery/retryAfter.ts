/**
 * Reads a Retry-After header (RFC 9110, 10.2.3): delay-seconds, or an HTTP-date.
 * @returns milliseconds from `now`, never negative; null when there is none or it cannot be read
 */
export function readRetryAfter(header: string | null | undefined, now: number): number | null {
  const text = header?.trim() ?? '';
  if (/^\d+$/.test(text)) return Number(text) * 1000;
  // Every form of HTTP-date (RFC 9110, 5.6.7) starts with a day name.
  if (!/^(Mon|Tue|Wed|Thu|Fri|Sat|Sun)/.test(text)) return null;
  // Only the obsolete asctime form has no time zone in it; HTTP-dates are always UTC.
  const at = Date.parse(/GMT$/.test(text) ? text : `${text} GMT`);
  return Number.isNaN(at) ? null : Math.max(0, at - now);
}
