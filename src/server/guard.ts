import type { Logger } from 'pino';

/** So many promises that nobody waited for may fail within a minute before the process is taken to be unwell. */
const MOST_LOOSE_FAILURES = 20;
const MINUTE_MS = 60_000;

/**
 * The last guard. What nobody caught costs its own request only: it is logged with its cause. After an exception that was thrown
 * past everything, nothing is known of the state that it left behind (Node.js, process, "Warning: Using 'uncaughtException'
 * correctly"), so the process is replaced: another one takes over the address, then this one ends what is under way.
 * @param replace asked for once, with the cause in words that hold no personal data
 * @returns takes the guard away
 */
export function guardProcess(
  log: Pick<Logger, 'error' | 'fatal'>,
  replace: (cause: string) => void,
  now: () => number = Date.now,
): () => void {
  let isReplaced = false;
  const failures: number[] = [];
  const leave = (cause: string) => {
    if (isReplaced) return;
    isReplaced = true;
    log.fatal({ cause }, 'this process ends, and another one takes its place');
    replace(cause);
  };
  const onException = (error: unknown) => {
    log.fatal({ err: error }, 'an exception that nobody caught: this process is being replaced');
    leave(causeOf(error));
  };
  const onRejection = (error: unknown) => {
    log.error({ err: error }, 'a failure that nobody waited for');
    failures.push(now());
    while ((failures[0] ?? Infinity) < now() - MINUTE_MS) failures.shift();
    if (failures.length > MOST_LOOSE_FAILURES) leave(causeOf(error));
  };
  process.on('uncaughtException', onException);
  process.on('unhandledRejection', onRejection);
  return () => {
    process.off('uncaughtException', onException);
    process.off('unhandledRejection', onRejection);
  };
}

/** The kind of an error and its code: its message may hold what a visitor sent. */
const causeOf = (error: unknown): string => {
  if (!(error instanceof Error)) return typeof error;
  return 'code' in error && typeof error.code === 'string' ? `${error.name} ${error.code}` : error.name;
};
