/** Counts how many of something are open at a time, by whose they are. */
export class AtOnce {
  readonly #most: number;
  readonly #open = new Map<string, number>();

  constructor(most: number) {
    this.#most = most;
  }

  /** Opens one more. @returns what closes it; null where so many are open already */
  take(whose: string): (() => void) | null {
    const count = this.#open.get(whose) ?? 0;
    if (count >= this.#most) return null;
    this.#open.set(whose, count + 1);
    return () => {
      const left = (this.#open.get(whose) ?? 1) - 1;
      if (left > 0) this.#open.set(whose, left);
      else this.#open.delete(whose);
    };
  }
}
