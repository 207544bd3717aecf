import { type RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { Problem } from '../problems.ts';

/** @returns after how many seconds an address may send again; null when it may now */
export async function mustWait(limiter: RateLimiterMemory, address: string): Promise<number | null> {
  try {
    await limiter.consume(address);
    return null;
  } catch (refused) {
    if (refused instanceof RateLimiterRes) return Math.ceil(refused.msBeforeNext / 1000);
    throw refused;
  }
}

export const tooOften = (seconds: number): Problem =>
  new Problem(429, 'too-many', `That was a little too often. Please try again in ${seconds} seconds.`, [], {
    'retry-after': String(seconds),
  });
