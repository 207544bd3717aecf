import { EVENT_MEANINGS } from '../../contract/profile/index.ts';
import { hasTakenBack } from '../../core/consent/index.ts';
import type { NoticesDocument } from '../../core/intake/index.ts';
import { NOBODY, planInboundEvent } from '../../core/plan/index.ts';
import { profileFor } from '../connecting/profiles.ts';
import type { Context } from '../context.ts';
import { sha256 } from '../security/tokens.ts';
import { dropWithdrawn } from '../store/deliveries.ts';
import { collectActions, noChanges, storeActions } from '../planning/changes.ts';
import { readPropagation } from '../planning/propagateWithdrawal.ts';
import { endConfirmations } from '../planning/withdrawn.ts';
import { findConnection } from '../store/connections.ts';
import type { Db } from '../store/database.ts';
import { addInboundEvent, consentUsed } from '../store/inboundEvents.ts';
import { addConsentEvents, consentOf, readKnownPeople, type IdentityClaims } from '../store/people/index.ts';
import { endPlanning, endRepeats, type SubmissionRecord } from '../store/submissions.ts';

/** Plans what another system told us, and stores what follows: what happened there, and what it means for consent. Each event once. */
export async function processInboundEvent(
  context: Context,
  db: Db,
  { submission, document, said }: { submission: SubmissionRecord; document: NoticesDocument; said: IdentityClaims },
): Promise<void> {
  const { newId, now } = context;
  const { values, receivedAt } = submission;
  const text = (name: string) => (typeof values[name] === 'string' ? values[name] : '');
  const [known = NOBODY] = await readKnownPeople(db, [said], { lock: true, answersSince: null });
  const contactId = known.contact?.id ?? null;
  const connection = await findConnection(db, document.connectionId);
  const from = connection ? profileFor(connection).name : 'a destination that was removed';
  const meaning = EVENT_MEANINGS.find((one) => one === text('meaning')) ?? null;
  // Nothing has happened that is still to come.
  const at = Math.min(Date.parse(text('at')) || receivedAt, receivedAt);
  const { connectionId } = document;
  const used = contactId === null ? [] : await consentUsed(db, { contactId, connectionId, at });
  const told =
    meaning === 'unsubscribed' && contactId !== null
      ? await readPropagation(db, { contactId, toldBy: document.connectionId })
      : null;
  const plan = planInboundEvent({ meaning: meaning ?? '', from, at, keys: said.keys, known, used, told });
  const isNew = await addInboundEvent(db, {
    id: newId(),
    connectionId: document.connectionId,
    remoteId: sha256(text('id')),
    kind: text('event'),
    meaning,
    contactId,
    at,
    receivedAt,
  });
  if (!isNew) {
    const again = {
      ...plan,
      consent: [],
      actions: [],
      notes: [{ code: 'told before' as const, text: 'It was told before.' }],
    };
    return endPlanning(db, [{ id: submission.id, plan: again, contactId }]);
  }
  if (contactId !== null && plan.consent.length > 0) {
    const evidence = { 'told by': connection?.name ?? '', event: text('event'), 'its id': text('id').slice(0, 100) };
    await addConsentEvents(
      db,
      plan.consent.map((event) => ({ ...event, id: newId(), contactId, submissionId: submission.id, at, evidence })),
    );
    // The same form sent again afterwards is a new sign-up, not a repeat.
    const needs = plan.consent.filter(({ kind }) => kind === 'withdrawn');
    if (needs.length > 0) {
      await endRepeats(db, contactId, now());
      await endConfirmations(
        db,
        contactId,
        needs.map((need) => ({ ...need, at })),
        now(),
      );
      // Who signed up anew before this was told of keeps what that brings them.
      const events = (await consentOf(db, [contactId])).get(contactId) ?? [];
      const gone = needs.filter((need) => hasTakenBack(events, need));
      await dropWithdrawn(db, contactId, gone, now());
    }
    const changes = noChanges();
    collectActions(context, changes, { contactId, submissionId: submission.id }, plan, now());
    await storeActions(db, changes, now());
  }
  await endPlanning(db, [{ id: submission.id, plan, contactId }]);
}
