import { readRetryAfter } from './retryAfter.ts';

/** How much more a service takes, as its answer said. */
export interface RemainingBudget {
  left: number;
  /** Milliseconds until there is room again. */
  resetMs: number;
}

/** Seconds from now are never this many: a larger figure is a time since 1970. */
const EPOCH_SECONDS = 1_000_000_000;

/**
 * Reads how many requests are left: the RateLimit field of the IETF draft (draft-ietf-httpapi-ratelimit-headers, as of
 * its tenth version: `"name";r=left;t=seconds`), the three fields of its earlier versions, and the common X- forms.
 * @returns null when the answer does not say, or cannot be read
 */
export function readRemainingBudget(headers: Record<string, string>, now: number): RemainingBudget | null {
  const field = headers.ratelimit ?? '';
  const left = /;\s*r\s*=\s*(\d+)/.exec(field)?.[1];
  const seconds = /;\s*t\s*=\s*(\d+)/.exec(field)?.[1];
  if (left !== undefined && seconds !== undefined) return { left: Number(left), resetMs: Number(seconds) * 1000 };
  for (const prefix of ['ratelimit', 'x-ratelimit', 'x-rate-limit']) {
    const remaining = headers[`${prefix}-remaining`]?.trim();
    const reset = headers[`${prefix}-reset`]?.trim();
    if (remaining === undefined || reset === undefined || !/^\d+$/.test(remaining)) continue;
    const resetMs = untilReset(reset, now);
    if (resetMs !== null) return { left: Number(remaining), resetMs };
  }
  return null;
}

/** A reset is given in seconds from now, as a time since 1970 (in seconds or milliseconds), or as a date. */
function untilReset(text: string, now: number): number | null {
  if (/^\d+(\.\d+)?$/.test(text)) {
    const figure = Number(text);
    if (figure < EPOCH_SECONDS) return Math.round(figure * 1000);
    return Math.max(0, (figure < EPOCH_SECONDS * 1000 ? figure * 1000 : figure) - now);
  }
  const at = Date.parse(text);
  return Number.isNaN(at) ? null : Math.max(0, at - now);
}

/** How long an answer asks us to wait: what Retry-After says, or until there is room again. Null when it does not ask. */
export function readWait(headers: Record<string, string>, now: number): number | null {
  const asked = readRetryAfter(headers['retry-after'], now);
  if (asked !== null) return asked;
  const room = readRemainingBudget(headers, now);
  return room?.left === 0 ? room.resetMs : null;
}
