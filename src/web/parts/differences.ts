/** One place at which two documents differ. */
export interface Difference {
  /** Names and positions from the root, as people read them. */
  where: string;
  yours: string;
  theirs: string;
}

/** Everything at which two documents differ, the smallest parts only. Parts with an id are compared with their like. */
export function differences(yours: unknown, theirs: unknown, where = ''): Difference[] {
  if (JSON.stringify(yours) === JSON.stringify(theirs)) return [];
  if (isList(yours) && isList(theirs)) {
    const names = [...new Set([...yours, ...theirs].map((part, index) => nameOf(part) ?? String(index)))];
    const find = (list: unknown[], name: string) =>
      list.find((part, index) => (nameOf(part) ?? String(index)) === name);
    if ([...yours, ...theirs].every((part) => nameOf(part) !== null))
      return names.flatMap((name) => differences(find(yours, name), find(theirs, name), join(where, name)));
    return [{ where, yours: inShort(yours), theirs: inShort(theirs) }];
  }
  if (isObject(yours) && isObject(theirs))
    return [...new Set([...Object.keys(yours), ...Object.keys(theirs)])].flatMap((name) =>
      differences(yours[name], theirs[name], join(where, name)),
    );
  return [{ where, yours: inShort(yours), theirs: inShort(theirs) }];
}

const join = (where: string, name: string): string => (where === '' ? name : `${where}, ${name}`);
const isList = (value: unknown): value is unknown[] => Array.isArray(value);
const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;
const nameOf = (part: unknown): string | null => (isObject(part) && typeof part.id === 'string' ? part.id : null);

function inShort(value: unknown): string {
  if (value === undefined) return 'not there';
  if (isObject(value) && !Array.isArray(value)) return typeof value.label === 'string' ? value.label : 'there';
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text === '' ? 'empty' : text.slice(0, 200);
}
