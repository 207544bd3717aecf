import type { Hono } from 'hono';
import type { Inside } from './inside.ts';
import { listen } from './listen.ts';
import { ready, StateFile } from './process.ts';

/** Runs a stand-in: its state from the file of last time or new, its app, and its end. */
export async function serveStandIn<State>(fresh: () => State, app: (inside: Inside<State>) => Hono): Promise<void> {
  const { PORT = '0', STATE_FILE } = process.env;
  const file: StateFile<State> = new StateFile(STATE_FILE, () => inside.state);
  const inside: Inside<State> = { state: file.load() ?? fresh(), changed: () => file.changed() };
  const server = await listen(app(inside), Number(PORT));
  ready({ port: server.port }, () => {
    server.close();
    file.save();
  });
}
