import { preflight, type Finding, type RouteDocument } from '../../../core/plan/index.ts';
import { readCatalogues } from '../../store/connections.ts';
import type { Db } from '../../store/database.ts';
import { readKnowledge } from '../../store/knowledge.ts';
import { listPurposes } from '../../store/purposes.ts';
import { liveBeside, type RouteRecord } from '../../store/routes.ts';
import { listSources, sourcesIn } from '../../store/sources.ts';

/**
 * Reads all that routes are checked against, once for many.
 * @param all every route there is, beside which each is checked
 * @returns what preflight finds in a document of a route
 */
export async function routeChecker(
  db: Db,
  all: RouteRecord[],
): Promise<(id: string, document: RouteDocument) => Finding[]> {
  const sources = new Map((await listSources(db)).map((source) => [source.id, source]));
  const catalogues = await readCatalogues(db);
  const purposes = await listPurposes(db);
  const knowledge = await readKnowledge(db);
  return (id, document) =>
    preflight({
      document,
      sources: sourcesIn(document.sourceIds, sources),
      catalogues,
      purposes,
      knowledge,
      others: liveBeside(all, id),
    });
}
