import { nameKey } from '../../contract/submissions.ts';
import { listConnections } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { listPurposes } from '../store/purposes.ts';
import { listRoutes } from '../store/routes.ts';

/**
 * Names for the ids that a plan speaks of: connections, routes, purposes; and of what a connection offers, under the connection's id
 * and what it is, since two accounts may well call different lists L-1 (see `nameKey`).
 */
export async function readNames(db: Db): Promise<Record<string, string>> {
  const names: Record<string, string> = {};
  for (const { id, name, catalogue } of await listConnections(db)) {
    names[id] = name;
    for (const list of catalogue?.lists ?? [])
      for (const place of [list, ...list.groups]) names[nameKey(id, 'place', place.id)] = place.name;
    for (const kind of catalogue?.kinds ?? []) names[nameKey(id, 'kind', kind.id)] = kind.name;
    const fields = [...(catalogue?.fields ?? []), ...(catalogue?.kinds ?? []).flatMap((kind) => kind.fields)];
    for (const field of fields) names[nameKey(id, 'field', field.key)] = field.label;
  }
  for (const { id, name } of await listRoutes(db)) names[id] = name;
  for (const { id, name } of await listPurposes(db)) names[id] = name;
  return names;
}
