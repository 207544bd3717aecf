import { eq } from 'drizzle-orm';
import type { RawSubmission } from '../../core/intake/index.ts';
import type { Db } from './database.ts';
import { arrivals } from './schema/index.ts';

/** Keeps what several submissions came by; once, also when it is told again. */
export async function addArrival(
  db: Db,
  arrival: { id: string; sourceId: string; receivedAt: number; raw: RawSubmission },
): Promise<void> {
  await db
    .insert(arrivals)
    .values(arrival)
    .onDuplicateKeyUpdate({ set: { id: arrival.id } });
}

export async function findArrival(db: Db, id: string): Promise<RawSubmission | null> {
  const [row] = await db.select({ raw: arrivals.raw }).from(arrivals).where(eq(arrivals.id, id));
  return row?.raw ?? null;
}
