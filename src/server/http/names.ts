import { listConnections } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { listRoutes } from '../store/routes.ts';

/** Names for the ids that a plan speaks of: connections, routes, lists, groups and kinds of record. */
export async function readNames(db: Db): Promise<Record<string, string>> {
  const names: Record<string, string> = {};
  for (const { id, name, catalogue } of await listConnections(db)) {
    names[id] = name;
    for (const list of catalogue?.lists ?? []) for (const place of [list, ...list.groups]) names[place.id] = place.name;
    for (const kind of catalogue?.kinds ?? []) names[kind.id] = kind.name;
    const fields = [...(catalogue?.fields ?? []), ...(catalogue?.kinds ?? []).flatMap((kind) => kind.fields)];
    for (const field of fields) names[`${id} ${field.key}`] = field.label;
  }
  for (const { id, name } of await listRoutes(db)) names[id] = name;
  return names;
}
