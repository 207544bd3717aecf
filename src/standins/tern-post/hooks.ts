import { createHmac, randomBytes, randomUUID } from 'node:crypto';
import { Hono } from 'hono';
import { needsKey, problem } from './answers.ts';
import type { Hook, Member, TernPostState } from './state.ts';

/** After how long an address that did not take an event is tried again. */
const AGAIN_MS = [0, 500, 2_000, 10_000, 30_000];

/** Tells whoever registered what happens to members: signed, and again when it was not taken. */
export class Hooks {
  readonly #state: () => TernPostState;

  constructor(state: () => TernPostState) {
    this.#state = state;
  }

  tell(kind: string, member: Member): void {
    for (const hook of this.#state().hooks)
      if (hook.kinds.includes(kind)) void this.send(hook, kind, { email: member.email, state: member.state });
  }

  /** @returns whether the address took it */
  async send(hook: Hook, kind: string, member: object): Promise<boolean> {
    const events = [{ id: `E-${randomUUID()}`, kind, at: new Date().toISOString(), member }];
    const body = JSON.stringify({ events });
    for (const delay of AGAIN_MS) {
      await new Promise((resolve) => setTimeout(resolve, delay));
      const time = String(Math.floor(Date.now() / 1000));
      const signature = createHmac('sha256', hook.secret).update(`${time}:${body}`).digest('hex');
      const taken = await fetch(hook.address, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'tern-time': time, 'tern-signature': signature },
        body,
        signal: AbortSignal.timeout(5_000),
      }).then(
        ({ ok }) => ok,
        () => false,
      );
      if (taken) return true;
    }
    return false;
  }
}

/** Where others register to be told. */
export function hooksApi(state: () => TernPostState, changed: () => void, hooks: Hooks): Hono {
  const api = new Hono();
  const writes = needsKey(state, 'members:write');
  api.get('/hooks', needsKey(state, 'members:read'), (c) =>
    c.json({ items: state().hooks.map(({ id, address, kinds }) => ({ id, address, kinds })) }),
  );
  api.post('/hooks', writes, async (c) => {
    const { address = '', kinds = [] } = await c.req.json<{ address?: string; kinds?: string[] }>();
    if (!URL.canParse(address)) return problem(c, 422, 'bad-hook', 'It needs a web address.');
    const hook = { id: `H-${randomUUID().slice(0, 8)}`, address, kinds, secret: randomBytes(24).toString('hex') };
    state().hooks.push(hook);
    changed();
    // Once the caller knows the secret.
    setTimeout(() => void hooks.send(hook, 'hook.trial', {}), 50);
    return c.json({ hook }, 201);
  });
  api.delete('/hooks/:id', writes, (c) => {
    state().hooks = state().hooks.filter(({ id }) => id !== c.req.param('id'));
    changed();
    return c.body(null, 204);
  });
  return api;
}
