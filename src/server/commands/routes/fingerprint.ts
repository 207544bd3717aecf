import { createHash } from 'node:crypto';
import type { Catalogue, RouteDocument } from '../../../core/plan/index.ts';

/** Of a route and of what its destinations offer: it is another one as soon as either is. Fetching a catalogue anew changes nothing. */
export function fingerprintOf(document: RouteDocument, catalogues: Record<string, Catalogue | undefined>): string {
  const ids = [...new Set(document.targets.map(({ connectionId }) => connectionId))].sort();
  const offered = ids.map((id) => {
    const { lists, tags: _, fields, kinds } = catalogues[id] ?? { lists: [], tags: [], fields: [], kinds: [] };
    // Tags are made at their first use, which is no reason to prove a route again.
    return [id, lists, fields, kinds];
  });
  return createHash('sha256')
    .update(JSON.stringify([document, offered]))
    .digest('hex');
}
