import { eq, sql } from 'drizzle-orm';
import { afterOutcome, HEALTHY, type Cause, type Health } from '../../core/delivery/index.ts';
import { inTransaction, rowsOf, type Db, type Store } from './database.ts';
import { connectionHealth } from './schema/index.ts';

export interface HealthRecord extends Health {
  /** When the budget of requests would be full again, in milliseconds since 1970. */
  budgetFullAt: number;
  lastFailureAt: number | null;
  lastCause: Cause | null;
  lastSaid: string;
}

export async function readHealths(db: Db): Promise<Map<string, HealthRecord>> {
  const rows = await db.select().from(connectionHealth);
  return new Map(
    rows.map(({ connectionId, lastSaid, ...row }) => [connectionId, { ...row, lastSaid: lastSaid ?? '' }]),
  );
}

/** Notes how a try ended, for everything else that is to go to the same connection. */
export function noteOutcome(
  store: Store,
  connectionId: string,
  { cause, said, waitMs }: { cause: Cause | null; said: string; waitMs: number | null },
  now: number,
  random: number,
): Promise<void> {
  // In one transaction, so that the row is held from reading to writing: workers note one after the other.
  return inTransaction(store, async (db) => {
    const [row] = await rowsOf<{ failures: number; restUntil: number }>(
      db,
      sql`SELECT failures, rest_until AS restUntil FROM connection_health WHERE connection_id = ${connectionId} FOR UPDATE`,
    );
    const health = afterOutcome(row ?? HEALTHY, cause, waitMs, now, random);
    const failure = cause === null ? {} : { lastFailureAt: now, lastCause: cause, lastSaid: said.slice(0, 600) };
    await db
      .insert(connectionHealth)
      .values({ connectionId, ...health, ...failure })
      .onDuplicateKeyUpdate({ set: { ...health, ...failure } });
  });
}

/** Forgets the failures of a connection: somebody mended it. */
export async function resetHealth(db: Db, connectionId: string): Promise<void> {
  await db.update(connectionHealth).set(HEALTHY).where(eq(connectionHealth.connectionId, connectionId));
}
