import { and, desc, eq, inArray, ne, sql } from 'drizzle-orm';
import { trialState, type TargetTrial } from '../../core/delivery/index.ts';
import type { Db } from './database.ts';
import { trials } from './schema/index.ts';

export type TrialRecord = typeof trials.$inferSelect;

export async function addTrial(db: Db, trial: TrialRecord): Promise<void> {
  await db.insert(trials).values(trial);
}

export async function findTrial(db: Db, id: string): Promise<TrialRecord | null> {
  const [row] = await db.select().from(trials).where(eq(trials.id, id));
  return row ?? null;
}

/** Writes down what became of one target; others may be written at the same time. @returns the trial as it is now */
export async function endTarget(db: Db, id: string, target: TargetTrial, now: number): Promise<TrialRecord | null> {
  const [row] = await db.select().from(trials).where(eq(trials.id, id)).for('update');
  if (!row) return null;
  const targets = row.targets.map((one) => (one.targetId === target.targetId ? target : one));
  const state = trialState(targets);
  const endedAt = state === 'running' ? null : now;
  await db.update(trials).set({ targets, state, endedAt }).where(eq(trials.id, id));
  return { ...row, targets, state, endedAt };
}

/** The newest trial of each route that is over. */
export async function newestTrials(db: Db, routeIds: string[]): Promise<Map<string, TrialRecord>> {
  if (routeIds.length === 0) return new Map();
  const newest = db
    .select({ routeId: trials.routeId, at: sql<number>`MAX(${trials.startedAt})`.as('at') })
    .from(trials)
    .where(and(inArray(trials.routeId, routeIds), ne(trials.state, 'running')))
    .groupBy(trials.routeId)
    .as('newest');
  const rows = await db
    .select()
    .from(trials)
    .innerJoin(newest, and(eq(trials.routeId, newest.routeId), eq(trials.startedAt, newest.at)))
    .orderBy(desc(trials.id));
  return new Map(rows.map((row) => [row.trials.routeId, row.trials]));
}
