import { setImmediate } from 'node:timers/promises';

/** For so long at most others wait, in milliseconds. */
const TURN_MS = 10;

/** Does something that takes its time for each of many, letting others have their turn in between: visitors above all. */
export async function mapYielding<Item, Made>(items: Item[], make: (item: Item) => Made): Promise<Made[]> {
  const made: Made[] = [];
  let since = performance.now();
  for (const item of items) {
    made.push(make(item));
    if (performance.now() - since < TURN_MS) continue;
    await setImmediate();
    since = performance.now();
  }
  return made;
}
