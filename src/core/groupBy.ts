/** Items in groups by a key, groups and items in the order in which they come. */
export function groupBy<Item>(items: Iterable<Item>, key: (item: Item) => string): Map<string, Item[]> {
  const groups = new Map<string, Item[]>();
  for (const item of items) {
    const name = key(item);
    const group = groups.get(name);
    if (group) group.push(item);
    else groups.set(name, [item]);
  }
  return groups;
}
