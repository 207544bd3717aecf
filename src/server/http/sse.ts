import type { HttpBindings } from '@hono/node-server';
import type { Context as HonoContext } from 'hono';
import { streamSSE } from 'hono/streaming';

/** Proxies and browsers give up on what is silent for long (WHATWG HTML, 9.2: a comment about every 15 seconds). */
const HEARTBEAT_MS = 15_000;

/**
 * Sends what there is, and what comes after it, as server-sent events (WHATWG HTML, 9.2), until the other side goes.
 * @param follow is called with what asks for the next look @param look gives what is new; null for nothing
 * @param mayFollow whether whoever listens still may: asked before each look, and at each beat
 */
export function sendEvents(
  c: HonoContext,
  follow: (wake: () => void) => () => void,
  look: () => Promise<{ id: string; data: unknown } | null>,
  mayFollow: () => Promise<boolean> = () => Promise.resolve(true),
): Response {
  c.header('x-accel-buffering', 'no');
  return streamSSE(c, async (stream) => {
    let wake: () => void = () => undefined;
    const asked = { isDue: true };
    const isDue = () => asked.isDue;
    const isOpen = () => !stream.aborted;
    const stop = follow(() => {
      asked.isDue = true;
      wake();
    });
    stream.onAbort(() => {
      wake();
    });
    // Whoever follows has nothing more to say: a connection that is closed, or half closed, is left. Only the next beat would show it.
    const socket = (c.env as Partial<HttpBindings> | undefined)?.incoming?.socket;
    const leave = () => stream.abort();
    socket?.once('end', leave).once('close', leave);
    try {
      while (isOpen() && (await mayFollow())) {
        if (isDue()) {
          asked.isDue = false;
          const found = await look();
          if (found) await stream.writeSSE({ id: found.id, data: JSON.stringify(found.data) });
        } else {
          await new Promise<void>((resolve) => {
            const timer = setTimeout(resolve, HEARTBEAT_MS);
            wake = () => {
              clearTimeout(timer);
              resolve();
            };
          });
          if (isOpen() && !isDue()) await stream.write(': still here\n\n');
        }
      }
    } finally {
      socket?.off('end', leave).off('close', leave);
      stop();
    }
  });
}
