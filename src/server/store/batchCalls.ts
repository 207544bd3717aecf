/**
 * Puts together what comes at the same time: what comes while `atOnce` calls are under way goes by the next one, all of it or so
 * many. Each is answered once the call is that it went by.
 * @param call takes several; what it answers is in their order
 */
export function batchCalls<Item, Answer>(
  call: (items: Item[]) => Promise<Answer[]>,
  { atOnce, most }: { atOnce: number; most: number },
): (item: Item) => Promise<Answer> {
  interface Waiting {
    item: Item;
    resolve: (answer: Answer) => void;
    reject: (error: unknown) => void;
  }
  let waiting: Waiting[] = [];
  let underWay = 0;
  const next = () => {
    if (waiting.length === 0 || underWay >= atOnce) return;
    const taken = waiting.slice(0, most);
    waiting = waiting.slice(most);
    underWay += 1;
    call(taken.map(({ item }) => item)).then(
      (answers) => {
        underWay -= 1;
        next();
        taken.forEach(({ resolve }, at) => resolve(answers[at] as Answer));
      },
      (error: unknown) => {
        underWay -= 1;
        next();
        for (const { reject } of taken) reject(error);
      },
    );
  };
  return (item) =>
    new Promise((resolve, reject) => {
      waiting.push({ item, resolve, reject });
      next();
    });
}
