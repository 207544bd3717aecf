import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { Problem } from '../problems.ts';
import { namesOf } from '../visitor.ts';

/** So many times as often as one address, all of one network together may do something. */
const NETWORK_TIMES = 20;
/** How often one visitor, and all of one network together, may do something. */
export class Pace {
  readonly #own: RateLimiterMemory;
  readonly #network: RateLimiterMemory;

  constructor(perMinute: number) {
    this.#own = new RateLimiterMemory({ points: perMinute, duration: 60 });
    this.#network = new RateLimiterMemory({ points: NETWORK_TIMES * perMinute, duration: 60 });
  }

  /** @param points how much it counts @returns after how many seconds an address may do it again; null when it may now */
  async wait(address: string, points = 1): Promise<number | null> {
    const { own, network } = namesOf(address);
    try {
      await this.#own.consume(own, points);
      await this.#network.consume(network, points);
      return null;
    } catch (refused) {
      if (refused instanceof RateLimiterRes) return Math.ceil(refused.msBeforeNext / 1000);
      throw refused;
    }
  }
}

export const tooOften = (seconds: number): Problem =>
  new Problem(429, 'too-many', `That was a little too often. Please try again in ${seconds} seconds.`, [], {
    'retry-after': String(seconds),
  });
