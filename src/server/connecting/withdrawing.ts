import type { Context } from '../context.ts';
import type { Db } from '../store/database.ts';
import { addConsentEvents, consentKey, readConsent } from '../store/people/index.ts';
import { endRepeats } from '../store/submissions.ts';

export interface Withdrawal {
  contactId: string;
  purposes: string[];
  /** When the person withdrew, in milliseconds since 1970. */
  at: number;
  /** In what words. */
  wording: string;
  evidence: Record<string, string>;
}

/**
 * Writes into the ledger that a person withdrew; where they did before, nothing: an operator's unsubscribe comes back
 * as a notice of the other system. The same form sent again afterwards is a new sign-up, not a repeat.
 */
export async function withdraw({ newId, now }: Context, db: Db, withdrawal: Withdrawal): Promise<void> {
  const { contactId, purposes, ...event } = withdrawal;
  const consent = await readConsent(db, [contactId]);
  const standing = purposes.filter((purpose) => consent.get(consentKey(contactId, purpose))?.state !== 'withdrawn');
  if (standing.length === 0) return;
  await addConsentEvents(
    db,
    standing.map((purpose) => ({
      ...event,
      id: newId(),
      contactId,
      submissionId: null,
      purpose,
      kind: 'withdrawn',
    })),
  );
  await endRepeats(db, contactId, now());
}
