import { createHmac } from 'node:crypto';
import type { Happening, ShopState } from './state.ts';

/** After how long an address that did not take a message is tried again; then never more. */
const AGAIN_MS = [0, 1_000, 5_000];

/** Tells whoever asked for it what happens: sealed, and a few times where it was not taken. */
export class Bells {
  readonly #state: () => ShopState;

  constructor(state: () => ShopState) {
    this.#state = state;
  }

  ring(happening: Happening): void {
    for (const bell of this.#state().bells)
      if (bell.kinds.includes(happening.kind)) void send(bell.address, bell.secret, JSON.stringify(happening));
  }
}

async function send(address: string, secret: string, body: string): Promise<void> {
  for (const delay of AGAIN_MS) {
    await new Promise((resolve) => setTimeout(resolve, delay));
    const at = String(Math.floor(Date.now() / 1000));
    const seal = createHmac('sha256', secret).update(`${at}\n${body}`).digest('base64');
    const taken = await fetch(address, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'fox-at': at, 'fox-seal': seal },
      body,
      signal: AbortSignal.timeout(5_000),
    }).then(
      ({ ok }) => ok,
      () => false,
    );
    if (taken) return;
  }
}
