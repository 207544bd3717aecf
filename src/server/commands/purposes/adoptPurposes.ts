import type { RouteDocument } from '../../../core/plan/index.ts';
import { wordingOf } from '../../../core/plan/index.ts';
import type { Context } from '../../context.ts';
import { inTransaction, type Db } from '../../store/database.ts';
import { addPurpose, changePurpose, listPurposes } from '../../store/purposes.ts';
import { listRoutes } from '../../store/routes.ts';
import { listSources } from '../../store/sources.ts';

/**
 * Makes things of the purposes that routes of before named by a text: those routes go on as they were, in the sentences in
 * which they ask. Done once, at the first start on data of then; afterwards it finds nothing to do.
 */
export async function adoptPurposes(context: Context): Promise<void> {
  await inTransaction(context.store, async (db) => {
    const known = new Map((await listPurposes(db)).map((purpose) => [purpose.id, purpose]));
    for (const [id, wordings] of await purposesInUse(db)) {
      const purpose = known.get(id);
      if (!purpose) await addPurpose(db, { id, name: id, wordings, channels: ['email'], now: context.now() });
      // Purposes that were made here have their wordings; those of before have the name that they had.
      else if (purpose.wordings.length === 0 && purpose.name === id)
        await changePurpose(db, id, { wordings }, context.now());
    }
  });
}

/** The purposes of routes that have no id but their name, with the sentences in which they ask for them. */
async function purposesInUse(db: Db): Promise<Map<string, string[]>> {
  const sources = new Map((await listSources(db)).map((source) => [source.id, source]));
  const found = new Map<string, Set<string>>();
  const take = ({ consent, sourceIds }: RouteDocument) => {
    for (const ask of consent.asks.filter(({ purpose }) => purpose !== '' && !isId(purpose))) {
      const wordings = found.get(ask.purpose) ?? new Set();
      found.set(ask.purpose, wordings);
      for (const sourceId of sourceIds) {
        const document = sources.get(sourceId)?.live ?? sources.get(sourceId)?.draft;
        const wording = document ? wordingOf(ask, document) : '';
        if (wording.trim() !== '') wordings.add(wording);
      }
    }
  };
  for (const { live, draft } of await listRoutes(db))
    for (const document of [live, draft]) if (document) take(document);
  return new Map([...found].map(([id, wordings]) => [id, [...wordings]]));
}

/** Ids that are made here are UUIDs (RFC 9562). */
const isId = (text: string): boolean => /^[0-9a-f]{8}-([0-9a-f]{4}-){3}[0-9a-f]{12}$/.test(text);
