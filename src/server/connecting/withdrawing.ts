import type { ConsentNeed } from '../../core/consent/index.ts';
import type { Context } from '../context.ts';
import type { Db } from '../store/database.ts';
import { addConsentEvents, consentKey, readConsent } from '../store/people/index.ts';
import { tellPlaces } from '../planning/telling.ts';
import { endRepeats } from '../store/submissions.ts';

export interface Withdrawal {
  contactId: string;
  /** What they withdrew. */
  from: ConsentNeed[];
  /** When the person withdrew, in milliseconds since 1970. */
  at: number;
  /** In what words. */
  wording: string;
  /** The connection at which it is done at once. */
  toldBy: string;
  evidence: Record<string, string>;
}

/**
 * Writes into the ledger that a person withdrew; where they did before, nothing: an operator's unsubscribe comes back
 * as a notice of the other system. Every other place is told. The same form sent again afterwards is a new sign-up, not a repeat.
 */
export async function withdraw(context: Context, db: Db, withdrawal: Withdrawal): Promise<void> {
  const { newId, now } = context;
  const { contactId, from, toldBy, ...event } = withdrawal;
  const consent = await readConsent(db, [contactId]);
  const standing = from.filter((need) => consent.get(consentKey(contactId, need))?.state !== 'withdrawn');
  if (standing.length === 0) return;
  await addConsentEvents(
    db,
    standing.map((need) => ({
      ...event,
      id: newId(),
      contactId,
      submissionId: null,
      ...need,
      kind: 'withdrawn',
    })),
  );
  await endRepeats(db, contactId, now());
  await tellPlaces(context, db, { contactId, needs: standing, wording: event.wording, toldBy });
}
