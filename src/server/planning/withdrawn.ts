import type { ConsentNeed } from '../../core/consent/index.ts';
import { endOpenConfirmations } from '../store/confirmations.ts';
import type { Db } from '../store/database.ts';
import { dropUnconfirmed } from '../store/deliveries.ts';
import { dropUnconfirmedMails } from '../store/mails.ts';

/** What somebody took back, and when, in milliseconds since 1970. */
export type TakenBack = ConsentNeed & { at: number };

/**
 * What waits for a confirmation of what somebody took back since is not done any more, and its link says so. Who signed up anew after
 * that can still confirm it.
 */
export async function endConfirmations(db: Db, contactId: string, taken: TakenBack[], now: number): Promise<void> {
  const byEmail = taken.filter(({ channel }) => channel === 'email');
  if (byEmail.length === 0) return;
  for (const id of await endOpenConfirmations(db, contactId, byEmail)) {
    await dropUnconfirmed(db, id, now, TAKEN_BACK);
    await dropUnconfirmedMails(db, id, TAKEN_BACK);
  }
}

const TAKEN_BACK = 'They took it back before they confirmed it.';
