import { createHash } from 'node:crypto';
import { eq, like } from 'drizzle-orm';
import type { SiteKind } from '../../core/insight/index.ts';
import type { Db } from './database.ts';
import { writeFact } from './accounts.ts';
import { facts } from './schema/index.ts';

const NAMES = 'site ';
/** Hosts are told apart by a hash: it has a length that fits. */
const nameOf = (host: string): string => NAMES + createHash('sha256').update(host).digest('hex').slice(0, 40);

/** What the operator says that sites are, by their hosts. */
export async function readSiteKinds(db: Db): Promise<Map<string, SiteKind>> {
  const rows = await db
    .select({ value: facts.value })
    .from(facts)
    .where(like(facts.name, `${NAMES}%`));
  return new Map(
    rows.map(({ value }) => {
      const [kind = '', host = ''] = value.split(' ');
      return [host, kind as SiteKind];
    }),
  );
}

/** @param kind null for what its host says itself */
export async function writeSiteKind(db: Db, host: string, kind: SiteKind | null): Promise<void> {
  if (kind === null) await db.delete(facts).where(eq(facts.name, nameOf(host)));
  else await writeFact(db, nameOf(host), `${kind} ${host}`);
}
