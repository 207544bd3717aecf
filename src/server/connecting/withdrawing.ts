import { isEchoOf, stateFor, type ConsentNeed } from '../../core/consent/index.ts';
import type { Context } from '../context.ts';
import type { Db } from '../store/database.ts';
import { addConsentEvents, consentOf } from '../store/people/index.ts';
import { endConfirmations } from '../planning/withdrawn.ts';
import { tellPlaces } from '../planning/propagateWithdrawal.ts';
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
 * Writes into the ledger that a person withdrew. Every other place is told, unless they did so before. The same form sent again afterwards is a new sign-up, not a repeat.
 */
export async function withdraw(context: Context, db: Db, withdrawal: Withdrawal): Promise<void> {
  const { newId, now } = context;
  const { contactId, from, toldBy, ...event } = withdrawal;
  const said = (await consentOf(db, [contactId])).get(contactId) ?? [];
  const standing = from.filter((need) => stateFor(said, need) !== 'withdrawn');
  const written = from.filter((need) => !isEchoOf(said, need, event.at));
  // Each is written, also by whoever left before: a yes of between, that we hear of late, counts for nothing.
  await addConsentEvents(
    db,
    written.map((need) => ({
      ...event,
      id: newId(),
      contactId,
      submissionId: null,
      ...need,
      kind: 'withdrawn',
    })),
  );
  await endConfirmations(
    db,
    contactId,
    from.map((need) => ({ ...need, at: event.at })),
    now(),
  );
  if (standing.length === 0) return;
  await endRepeats(db, contactId, now());
  await tellPlaces(context, db, { contactId, needs: standing, wording: event.wording, toldBy });
}
