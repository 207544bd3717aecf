/** A bucket of requests for each key, that fills again as time goes by. */
export class Pace {
  readonly #buckets = new Map<string, { left: number; at: number }>();

  /** Takes one request out of a key's bucket. @returns whether there was one, what is left, and when it is full again */
  take(key: string, { perSecond, burst }: { perSecond: number; burst: number }, nowMs: number) {
    const { left, at } = this.#buckets.get(key) ?? { left: burst, at: nowMs };
    const filled = Math.min(burst, left + ((nowMs - at) / 1000) * perSecond);
    const ok = filled >= 1;
    const rest = ok ? filled - 1 : filled;
    this.#buckets.set(key, { left: rest, at: nowMs });
    return { ok, left: Math.floor(rest), seconds: Math.ceil((1 - Math.min(1, rest)) / perSecond) };
  }
}
