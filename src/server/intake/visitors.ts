import { answeredId } from '../../core/forms/index.ts';
import type { Visit, VisitPart } from '../../core/intake/index.ts';
import { stateFor } from '../../core/consent/index.ts';
import { agreedId, knowledgeOf, type KnownPerson } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import { readSignedText, signText } from '../security/stamps.ts';
import { consentGivenBy, personBehind, readKnownContact, sourcesAnsweredBy } from '../store/people/index.ts';
import { visitOf, type SubmissionRecord } from '../store/submissions.ts';

/*
 * Who a visitor is, is never guessed from an address that was typed. It is known by a sign: in a link that was mailed to them, which
 * only who reads that mailbox has; or in the browser that sent something, which speaks for what it sent itself, and for the person
 * only once that was confirmed from their mailbox.
 */
const BY_LINK = 'visitor by link';
const BY_BROWSER = 'visitor by browser';

/** The sign that goes to the mailbox of the person whom a submission is of. */
export const signForLink = ({ config }: Pick<Context, 'config'>, submissionId: string): string =>
  `l${signText(config.secretKey, BY_LINK, submissionId)}`;

/** The sign that the browser keeps which sent a submission, where the visitor agreed to that. */
export const signForBrowser = ({ config }: Context, submissionId: string): string =>
  `b${signText(config.secretKey, BY_BROWSER, submissionId)}`;

/** How a submission came, with the sign of its person: what planning draws on. */
export const visitWithSign = (
  context: Pick<Context, 'config'>,
  submission: Pick<SubmissionRecord, 'id' | VisitPart>,
): Visit => ({
  ...visitOf(submission),
  visitor: signForLink(context, submission.id),
});

/** What is known of a visitor by their sign, by the ids of such facts; nothing where it is none of ours. */
export async function knownBySign({ config, store: { db } }: Context, sign: string): Promise<FieldValues> {
  const read = (what: string) => readSignedText(config.secretKey, what, sign.slice(1));
  const [link, browser] = [sign.startsWith('l') ? read(BY_LINK) : null, sign.startsWith('b') ? read(BY_BROWSER) : null];
  const submissionId = link ?? browser;
  if (submissionId === null) return {};
  const person = await personBehind(db, submissionId);
  if (!person) return {};
  const isProven = link !== null || person.confirmed;
  if (isProven && person.contactId !== null)
    return {
      ...factsOf(await readKnownContact(db, person.contactId)),
      ...answered(await sourcesAnsweredBy(db, person.contactId)),
    };
  const consent = await consentGivenBy(db, submissionId);
  return { ...factsOf({ consent, sent: [] }), ...answered([person.sourceId]) };
}

/** What is known of a person, where somebody who was asked to confirm has not agreed yet: they would be told what is not so. */
function factsOf(known: Pick<KnownPerson, 'consent' | 'sent'>): FieldValues {
  const waiting = known.consent.filter((need) => stateFor(known.consent, need) === 'asked');
  return {
    ...knowledgeOf(known),
    ...Object.fromEntries(waiting.map(({ purpose, channel }) => [agreedId(purpose, channel), false])),
  };
}

const answered = (sourceIds: string[]): FieldValues =>
  Object.fromEntries(sourceIds.map((id) => [answeredId(id), true]));
