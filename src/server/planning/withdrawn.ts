import type { ConsentNeed } from '../../core/consent/index.ts';
import { endOpenConfirmations } from '../store/confirmations.ts';
import type { Db } from '../store/database.ts';
import { dropUnconfirmed } from '../store/deliveries.ts';
import { dropUnconfirmedMails } from '../store/mails.ts';

/** What waits for a confirmation of what somebody took back since is not done any more, and its link says so. */
export async function endConfirmations(db: Db, contactId: string, needs: ConsentNeed[], now: number): Promise<void> {
  const purposes = needs.filter(({ channel }) => channel === 'email').map(({ purpose }) => purpose);
  if (purposes.length === 0) return;
  for (const id of await endOpenConfirmations(db, contactId, purposes)) {
    await dropUnconfirmed(db, id, now, TAKEN_BACK);
    await dropUnconfirmedMails(db, id, TAKEN_BACK);
  }
}

const TAKEN_BACK = 'They took it back before they confirmed it.';
