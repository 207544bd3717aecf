import { createHash } from 'node:crypto';

const LEAST = 1 << 10;

/**
 * Which texts there were, by 64 bits of a hash of each: 16 to 32 bytes a text, however long it is, where a set of them takes a hundred and more.
 * That two of a million texts are taken for one happens once in tens of millions of files.
 */
export class Marks {
  /** Two words each, at the place that the hash says or the next free one; both 0 for a free one. */
  #table = new Uint32Array(2 * LEAST);
  #count = 0;

  get size(): number {
    return this.#count;
  }

  has(text: string): boolean {
    return this.#placeOf(...hashOf(text)) === null;
  }

  add(text: string): void {
    const [high, low] = hashOf(text);
    const place = this.#placeOf(high, low);
    if (place === null) return;
    this.#put(place, high, low);
    this.#count += 1;
    if (4 * this.#count > this.#table.length) this.#grow();
  }

  #put(place: number, high: number, low: number): void {
    this.#table[place] = high;
    this.#table[place + 1] = low;
  }

  /** Where a hash is to be put; null where it is. */
  #placeOf(high: number, low: number): number | null {
    const mask = this.#table.length / 2 - 1;
    for (let at = high & mask; ; at = (at + 1) & mask) {
      const [one = 0, other = 0] = [this.#table[2 * at], this.#table[2 * at + 1]];
      if (one === 0 && other === 0) return 2 * at;
      if (one === high && other === low) return null;
    }
  }

  #grow(): void {
    const before = this.#table;
    this.#table = new Uint32Array(2 * before.length);
    for (let at = 0; at < before.length; at += 2) {
      const [high = 0, low = 0] = [before[at], before[at + 1]];
      if (high === 0 && low === 0) continue;
      this.#put(this.#placeOf(high, low) as number, high, low);
    }
  }
}

function hashOf(text: string): [high: number, low: number] {
  const bytes = createHash('sha256').update(text).digest();
  const [high, low] = [bytes.readUInt32LE(0), bytes.readUInt32LE(4)];
  return high === 0 && low === 0 ? [1, 0] : [high, low];
}
