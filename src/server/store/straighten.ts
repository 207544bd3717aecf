import { sql, type SQL } from 'drizzle-orm';
import { LONGEST_ASKED_MS, LONGEST_WAIT_MS } from '../../core/delivery/index.ts';
import type { Store } from './database.ts';
import { LONGEST_MAIL_WAIT_MS } from './mails.ts';

/** So far clocks of several machines may be apart. */
const APART_MS = 60_000;

/**
 * Puts times right that were told by a clock which was ahead: nothing waits for longer than it could have been told to, and no
 * lease lasts longer than a new one. What a service asked for is kept with its connection; what it takes to show somebody may be
 * longer than any other wait, and a look before that would say that nobody came.
 */
export async function straightenTimes({ db }: Store, now: number, leaseMs: number): Promise<void> {
  const due = (table: string, waiting: SQL, longest: number) =>
    db.execute(
      sql`UPDATE ${sql.identifier(table)} SET due_at = ${now} WHERE ${waiting} AND due_at > ${now + longest + APART_MS}`,
    );
  await due('submissions', sql`state = 'received'`, 0);
  await due('mails', sql`state = 'queued'`, LONGEST_MAIL_WAIT_MS);
  await due('deliveries', sql`state = 'queued'`, 0);
  await due('deliveries', sql`state = 'retrying' AND NOT cause <=> 'not seen yet'`, LONGEST_WAIT_MS);
  await db.execute(
    sql`UPDATE connection_health SET rest_until = ${now} WHERE rest_until > ${now + LONGEST_ASKED_MS + APART_MS}`,
  );
  for (const [table, state] of [
    ['submissions', 'received'],
    ['mails', 'sending'],
    ['deliveries', 'sending'],
  ] as const)
    await db.execute(
      sql`UPDATE ${sql.identifier(table)} SET lease_until = ${now + leaseMs} WHERE state = ${state} AND lease_until > ${now + leaseMs + APART_MS}`,
    );
}
