import type { Context } from '../context.ts';

/**
 * Does a part of some work at each beat, and at once more of it as long as there may be more. One part at a time; a part that
 * fails is logged, and the next beat goes on.
 * @param what as the log calls it
 * @param part @returns whether there may be more to do at once
 */
export function runBeats(
  { log }: Pick<Context, 'log'>,
  everyMs: number,
  what: string,
  part: (isStopped: () => boolean) => Promise<boolean>,
): { stop(): Promise<void> } {
  let running = Promise.resolve();
  let stopped = false;
  const isStopped = () => stopped;
  const beat = async () => {
    while (!stopped && (await part(isStopped)));
  };
  const run = () => {
    running = running.then(beat).catch((error: unknown) => log.error({ err: error }, `${what} failed`));
  };
  const timer = setInterval(run, everyMs);
  return {
    async stop() {
      stopped = true;
      clearInterval(timer);
      await running;
    },
  };
}
