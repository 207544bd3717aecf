import type { Context } from '../context.ts';
import { countEvents, forgetEvents } from '../store/counting.ts';
import { inTransaction } from '../store/database.ts';
import { DAY_MS } from '../store/figures.ts';

/** So long after something happened it is in the counts, at the latest. */
const ROLLUP_MS = 1_000;
const MOST_AT_ONCE = 2_000;
/** Strokes between two looks for what is old. */
const FORGETS_EVERY = 60;
const FORGOTTEN_AT_ONCE = 5_000;
/** What is counted is kept for so long by itself: to be looked up, and to recount. */
export const EVENT_DAYS = 400;

/** Adds what happened at forms to the counts, a stroke at a time. A stroke that breaks off is none. */
export function runCounting(context: Context): { stop(): Promise<void> } {
  const { log } = context;
  let isOn = true;
  let strokes = 0;
  let wake = () => {};
  const run = async () => {
    while (isOn) {
      let counted = 0;
      try {
        counted = await countRollup(context);
        strokes += 1;
        if (strokes % FORGETS_EVERY === 0)
          await forgetEvents(context.store.db, context.now() - EVENT_DAYS * DAY_MS, FORGOTTEN_AT_ONCE);
      } catch (error) {
        log.error({ err: error }, 'counting failed');
      }
      if (counted < MOST_AT_ONCE)
        await new Promise<void>((resolve) => {
          const timer = setTimeout(resolve, ROLLUP_MS);
          wake = () => {
            clearTimeout(timer);
            resolve();
          };
        });
    }
  };
  const running = run();
  return {
    async stop() {
      isOn = false;
      wake();
      await running;
    },
  };
}

/** One stroke. @returns how many were counted */
export const countRollup = ({ store, newId }: Context): Promise<number> =>
  inTransaction(store, (db) => countEvents(db, newId(), MOST_AT_ONCE));
