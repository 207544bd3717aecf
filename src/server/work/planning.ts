import { visitWithSign } from '../intake/visitors.ts';
import { hasWays, wayName, waysTaken, withVariant } from '../../core/forms/index.ts';
import { noteCompleted, noteWays } from '../store/counting.ts';
import { inWords } from '../../core/values/index.ts';
import { keyText } from '../../core/identity/index.ts';
import {
  NOBODY,
  ANSWER_REST_MS,
  planSubmission,
  type KnownPerson,
  type Plan,
  brokeOffIn,
} from '../../core/plan/index.ts';
import { groupBy } from '../../core/groupBy.ts';
import { type SourceDocument, saidPartsOf, saysAnew } from '../../core/intake/index.ts';
import { readPropagation } from '../planning/propagateWithdrawal.ts';
import { endConfirmations } from '../planning/withdrawn.ts';
import { dropWithdrawn } from '../store/deliveries.ts';
import { collectActions, noChanges, storeActions, type Changes } from '../planning/changes.ts';
import type { Context } from '../context.ts';
import { DUPLICATE_ENTRY, inTransaction, type Db } from '../store/database.ts';
import { importedIn, importsOf } from '../planning/imported.ts';
import type { ImportRecord } from '../store/imports.ts';
import { changeContacts, readKnownPeople, identityClaims, type NewConsentEvent } from '../store/people/index.ts';
import {
  absorbRepeats,
  delayPlanning,
  endPlanning,
  endRepeats,
  failPlanning,
  findSubmission,
  lockUnplanned,
  type SubmissionRecord,
} from '../store/submissions.ts';
import { noteEnd } from './lapsing.ts';
import { processInboundEvent } from './processInboundEvent.ts';
import { NO_CONTEXT, type PlanningContexts } from '../planning/planningContexts.ts';
import { shownTo, type Shown } from '../planning/shown.ts';

const MOST_TRIES = 5;

/**
 * Plans submissions and stores all that they cause, in one transaction: many cost little more than one. If that fails
 * they are planned one by one, so that one that cannot be planned holds up none of the others.
 */
export async function planAndStore(context: Context, planningContexts: PlanningContexts, ids: string[]): Promise<void> {
  try {
    // Two submissions of one new person at the same time: the second finds the key taken, and starts again.
    const left = await inTransaction(context.store, (db) => planTogether(context, planningContexts, db, ids), [
      DUPLICATE_ENTRY,
    ]);
    if (left.length > 0) await planAndStore(context, planningContexts, left);
  } catch (error) {
    const [id, ...others] = ids;
    if (id === undefined) return;
    if (others.length === 0) return giveUp(context, id, error);
    for (const one of ids) await planAndStore(context, planningContexts, [one]);
  }
}

async function giveUp({ store, now, log }: Context, id: string, error: unknown): Promise<void> {
  const submission = await findSubmission(store.db, id);
  log.error({ err: error, submission: id }, 'planning failed');
  if (submission && submission.tries >= MOST_TRIES) {
    await failPlanning(store.db, id, error instanceof Error ? error.message : 'unknown fault');
  } else {
    await delayPlanning(store.db, id, now() + 2_000);
  }
}

/** @returns the ids of those that have to wait for another of the same person, planned here */
async function planTogether(
  context: Context,
  planningContexts: PlanningContexts,
  db: Db,
  ids: string[],
): Promise<string[]> {
  const locked = await lockUnplanned(db, ids);
  const repeats = await absorbRepeats(db, locked);
  const now = context.now();
  const read = await Promise.all(
    locked
      .filter(({ id }) => !repeats.has(id))
      .map(async (submission) => {
        const document = await planningContexts.source(submission.sourceId, submission.sourceVersion);
        const shown = await shownTo(planningContexts, document, submission);
        return {
          submission,
          document,
          shown,
          said: identityClaims(document.fields, submission.values, submission.sourceId),
        };
      }),
  );
  for (const { submission, document, said } of read)
    if (document.kind === 'notices') await processInboundEvent(context, db, { submission, document, said });
  const taken = read.filter(({ document }) => document.kind !== 'notices');
  const planningContextOf = await planningContexts.ofAll(taken.map(({ submission }) => submission.sourceId));
  const answers = [...planningContextOf.values()].some(({ routes }) =>
    routes.some(({ document }) => document.mails.some(({ kind }) => kind === 'answer')),
  );
  const people = await readKnownPeople(
    db,
    taken.map(({ said }) => said),
    { lock: true, answersSince: answers ? now - ANSWER_REST_MS : null },
  );
  const importOf = await importsOf(db, taken);
  const left: string[] = [];
  const here = new Set<string>();
  const changes = noChanges();
  for (const [index, { submission, document, shown, said }] of taken.entries()) {
    const known: KnownPerson = people[index] ?? NOBODY;
    const { keys } = said;
    const marks = [...keys.map(keyText), ...(known.contact ? [known.contact.id] : [])];
    if (marks.some((mark) => here.has(mark))) {
      left.push(submission.id);
      continue;
    }
    for (const mark of marks) here.add(mark);
    const { fields, statement, trust } = document;
    const planningContext = planningContextOf.get(submission.sourceId) ?? NO_CONTEXT;
    const tells = saidPartsOf(document);
    // Everybody else has to be read for whoever takes something back, and for nobody else.
    const mayTakeBack = tells !== null && saysAnew(tells, submission.values);
    const plan = planSubmission({
      shown: shown.words,
      fields,
      statement,
      trust,
      imported: importedIn(document, importOf(submission, document)),
      tells,
      brokeOff: brokeOffIn(document, submission.values),
      ...(mayTakeBack && known.contact
        ? {
            told: await readPropagation(db, {
              contactId: known.contact.id,
              toldBy: document.kind === 'shop' ? document.connectionId : '',
            }),
          }
        : {}),
      values: submission.values,
      keys,
      visit: visitWithSign(context, submission),
      ...planningContext,
      known,
      now,
    });
    collect(context, changes, { submission, document, shown, plan, from: importOf(submission, document) }, now);
  }
  await changeContacts(db, changes.contacts, context.newId, now);
  await endWithdrawn(db, changes.consent, now);
  await storeActions(db, changes, now);
  await endPlanning(db, changes.planned);
  const contactOf = new Map(changes.planned.map(({ id, contactId }) => [id, contactId]));
  for (const { submission, document } of taken) {
    const contactId = contactOf.get(submission.id) ?? null;
    if (document.kind === 'registration' && contactId !== null) await noteEnd(db, { document, submission, contactId });
  }
  const planned = new Set(changes.planned.map(({ id }) => id));
  await noteCompleted(
    db,
    taken.flatMap(({ submission, document }) => {
      const brokeOff = brokeOffIn(document, submission.values);
      const counts = planned.has(submission.id) && (brokeOff === null || brokeOff === 'send');
      return counts ? [submission] : [];
    }),
  );
  await noteWays(
    db,
    taken.flatMap(({ submission, document }) =>
      document.kind === 'form' && planned.has(submission.id) && hasWays(document)
        ? [
            {
              submission,
              ways: waysTaken(
                withVariant(document, submission.variant ?? ''),
                submission.values,
                submission.receivedAt,
              ).map(wayName),
            },
          ]
        : [],
    ),
  );
  return left;
}

/** Adds what one plan changes. A submission that does not say who it is changes nothing. */
function collect(
  context: Context,
  changes: Changes,
  {
    submission,
    document,
    shown,
    plan,
    from,
  }: { submission: SubmissionRecord; document: SourceDocument; shown: Shown; plan: Plan; from: ImportRecord | null },
  now: number,
): void {
  const { newId } = context;
  const { contact } = plan;
  const contactId = contact && (contact.contactId ?? newId());
  changes.planned.push({ id: submission.id, plan, contactId });
  if (!contact || contactId === null) return;
  changes.contacts.push({
    id: contactId,
    isNew: contact.match === 'new',
    keys: contact.keys,
    ofOthers: contact.possible.map(({ by }) => by),
    changes: contact.changes.filter(({ when }) => when === 'now'),
    submissionId: submission.id,
  });

  const { 'user-agent': userAgent = '', address = '' } = submission.raw.headers;
  const evidence: Record<string, string> = from
    ? importedEvidence(from, submission)
    : document.kind === 'shop' || document.kind === 'registration'
      ? {
          'told by': document.kind === 'shop' ? 'the shop' : 'the site',
          event: inWords(submission.values[document.kindField] ?? ''),
        }
      : { page: submission.page ?? '', ...shown.evidence, 'user agent': userAgent, address };
  // What people agreed to elsewhere, they did then.
  const agreedAt = from
    ? Math.min(Date.parse(`${from.evidence.when}T12:00Z`) || submission.receivedAt, submission.receivedAt)
    : null;
  for (const event of plan.consent) {
    // What a person did happened when the form was sent, not when we got to it.
    const { at: saidAt, ...said } = event;
    const at = event.kind === 'asked' ? now : (saidAt ?? agreedAt ?? submission.receivedAt);
    changes.consent.push({ ...said, id: newId(), contactId, submissionId: submission.id, at, evidence });
  }

  collectActions(context, changes, { contactId, submissionId: submission.id }, plan, now);
}

/** What was planned before somebody took back what it stood on, and waits or is held, is not to be sent any more. */
async function endWithdrawn(db: Db, events: NewConsentEvent[], now: number): Promise<void> {
  const taken = groupBy(
    events.filter(({ kind }) => kind === 'withdrawn'),
    ({ contactId }) => contactId,
  );
  for (const [contactId, needs] of taken) {
    await dropWithdrawn(db, contactId, needs, now);
    await endConfirmations(db, contactId, needs, now);
    await endRepeats(db, contactId, now);
  }
}

/** Where what is taken over comes from, as somebody said who imported it. */
const importedEvidence = (
  { name, byName, evidence }: ImportRecord,
  { raw }: SubmissionRecord,
): Record<string, string> => ({
  'imported from': name,
  row: raw.headers.row ?? '',
  'agreed where': evidence.where,
  'agreed when': evidence.when,
  'imported by': byName,
});
