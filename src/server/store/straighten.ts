import { sql } from 'drizzle-orm';
import { LONGEST_WAIT_MS } from '../../core/delivery/index.ts';
import type { Store } from './database.ts';

/** So far clocks of several machines may be apart. */
const APART_MS = 60_000;
const LONGEST_MAIL_WAIT_MS = 10 * 60_000;
/** No service is left alone for longer, whatever it asks for. */
const LONGEST_ASKED_MS = 25 * 3_600_000;

/**
 * Puts times right that were told by a clock which was ahead: nothing waits for longer than it could have been told to, and no
 * lease lasts longer than a new one. What a service asked for is kept, since it is kept with the connection.
 */
export async function straightenTimes({ db }: Store, now: number, leaseMs: number): Promise<void> {
  const due = (table: string, states: string, longest: number) =>
    db.execute(
      sql`UPDATE ${sql.identifier(table)} SET due_at = ${now} WHERE state IN (${sql.raw(states)}) AND due_at > ${now + longest + APART_MS}`,
    );
  await due('submissions', "'received'", 0);
  await due('mails', "'queued'", LONGEST_MAIL_WAIT_MS);
  await due('deliveries', "'queued'", 0);
  await due('deliveries', "'retrying'", LONGEST_WAIT_MS);
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
