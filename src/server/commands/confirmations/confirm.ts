import { isTakenBackSince } from '../../../core/consent/index.ts';
import type { Context } from '../../context.ts';
import { sha256 } from '../../security/tokens.ts';
import { findConfirmationByToken, markConfirmed, type ConfirmationRecord } from '../../store/confirmations.ts';
import { noteProgress } from '../../store/counting.ts';
import { inTransaction } from '../../store/database.ts';
import { releaseMails } from '../../store/mails.ts';
import { releaseConfirmed } from '../../store/deliveries.ts';
import { purposeNames } from '../../store/purposes.ts';
import { addConsentEvents, consentOf, takeConfirmedChanges } from '../../store/people/index.ts';
import { submissionsOfConfirmation } from '../../store/submissions.ts';

export type ConfirmationStanding =
  | { kind: 'unknown' }
  | {
      kind: 'pending' | 'confirmed' | 'expired' | 'withdrawn';
      confirmation: ConfirmationRecord;
      /** What it is for, as people know it. */
      about: string;
    };

/** What a link stands for now. Looking changes nothing: mail scanners look at every link. */
export async function readConfirmation({ store, now }: Context, token: string): Promise<ConfirmationStanding> {
  const confirmation = await findConfirmationByToken(store.db, sha256(token));
  if (!confirmation) return { kind: 'unknown' };
  const overdue = confirmation.state === 'pending' && confirmation.expiresAt <= now();
  const nameOf = await purposeNames(store.db);
  const about = confirmation.purposes.map(nameOf).join(', ');
  if (confirmation.state === 'pending' && !overdue) {
    // What was taken back since the sign-up is confirmed by its link no more, whoever told of it and however late.
    const said = (await consentOf(store.db, [confirmation.contactId])).get(confirmation.contactId) ?? [];
    const purposes = confirmation.purposes.filter(
      (purpose) => !isTakenBackSince(said, { purpose, channel: 'email' }, confirmation.createdAt),
    );
    if (purposes.length === 0) return { kind: 'withdrawn', confirmation, about };
    return { kind: 'pending', confirmation: { ...confirmation, purposes }, about: purposes.map(nameOf).join(', ') };
  }
  return { kind: overdue ? 'expired' : confirmation.state, confirmation, about };
}

/** A person confirms. Doing so twice is harmless: the second time finds it done. The ledger is the note of it. */
export async function confirm(
  context: Context,
  token: string,
  evidence: Record<string, string>,
): Promise<ConfirmationStanding> {
  const standing = await readConfirmation(context, token);
  if (standing.kind !== 'pending') return standing;
  const { id, contactId, submissionId, purposes, mail, sentTo, createdAt } = standing.confirmation;
  const now = context.now();
  await inTransaction(context.store, async (db) => {
    if (!(await markConfirmed(db, id, now))) return;
    await addConsentEvents(
      db,
      purposes.map((purpose) => ({
        id: context.newId(),
        contactId,
        submissionId,
        purpose,
        channel: 'email',
        kind: 'confirmed',
        at: now,
        // It belongs to its sign-up, whatever became of that since.
        answers: createdAt,
        wording: `${mail.subject} / ${mail.button}`,
        evidence,
      })),
    );
    const served = await submissionsOfConfirmation(db, { id, submissionId });
    const changed = served.map((one) => ({ ...one, changes: one.plan?.contact?.changes ?? [] }));
    await takeConfirmedChanges(db, { contactId, address: sentTo }, changed, context.newId, now);
    await releaseConfirmed(db, id, contactId, now);
    await releaseMails(db, id, now);
    await noteProgress(
      db,
      'confirmed',
      served.map((one) => one.id),
    );
  });
  return { ...standing, kind: 'confirmed' };
}
