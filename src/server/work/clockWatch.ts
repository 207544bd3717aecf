/** More than this in one step is no drift: somebody put the clock to another time. */
const JUMP_MS = 2_000;

/**
 * Notices when the machine's clock was put forward or back while this process ran: leases and due times are told by it, and mean
 * something else from then on.
 */
export class ClockWatch {
  readonly #wall: () => number;
  readonly #steady: () => number;
  readonly #leaseMs: number;
  #apart: number;
  #unsureUntil = Number.NEGATIVE_INFINITY;
  /** Times are looked at once when a process begins: it may be the first after a jump. */
  #untold = true;

  /** @param wall the clock that can jump, and @param steady one that cannot: milliseconds both */
  constructor(leaseMs: number, wall: () => number, steady: () => number = () => performance.now()) {
    this.#wall = wall;
    this.#steady = steady;
    this.#leaseMs = leaseMs;
    this.#apart = wall() - steady();
  }

  /**
   * Whether leases of others seem to have run out only because the clock was put forward: for as long as a lease lasts, by which
   * time all who live have renewed theirs.
   */
  isUnsure(): boolean {
    this.#look();
    return this.#steady() < this.#unsureUntil;
  }

  /** Has times put right, where they have to be: once, and again where that did not succeed. */
  async afterJump(straighten: () => Promise<void>): Promise<void> {
    this.#look();
    if (!this.#untold) return;
    this.#untold = false;
    try {
      await straighten();
    } catch (error) {
      this.#untold = true;
      throw error;
    }
  }

  #look(): void {
    const apart = this.#wall() - this.#steady();
    if (Math.abs(apart - this.#apart) > JUMP_MS) {
      this.#unsureUntil = this.#steady() + this.#leaseMs;
      this.#untold = true;
    }
    this.#apart = apart;
  }
}
