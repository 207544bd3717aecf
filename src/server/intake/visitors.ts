import { answeredId } from '../../core/forms/index.ts';
import type { Visit, VisitPart } from '../../core/intake/index.ts';
import { stateFor } from '../../core/consent/index.ts';
import { agreedId, knowledgeOf, type KnownPerson } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import type { Context } from '../context.ts';
import { readSignedText, signText } from '../security/stamps.ts';
import { consentGivenBy, peopleBehind, readKnownContact, sentBy, sourcesAnsweredBy } from '../store/people/index.ts';
import { visitOf, type SubmissionRecord } from '../store/submissions.ts';

/*
 * Who a visitor is, is never guessed from an address that was typed. It is known by a sign: in a link that was mailed to them, which
 * only who reads that mailbox has; or in the browser that sent something, which speaks for what it sent itself, whoever confirmed
 * that: it may have typed the address of somebody else.
 */
const BY_LINK = 'visitor by link';
const BY_BROWSER = 'visitor by browser';

/** The sign that goes to the mailbox of the person whom a submission is of. */
export const signForLink = ({ config }: Pick<Context, 'config'>, submissionId: string): string =>
  `l${signText(config.secretKey, BY_LINK, submissionId)}`;

/** For so much of what it sent a browser speaks. */
const MOST_SENT = 20;

/** The sign that the browser keeps which sent a submission, where the visitor agreed to that. @param before the one that it had */
export function signForBrowser({ config }: Context, submissionId: string, before: string): string {
  const sent = [...sentFrom(config.secretKey, before).filter((id) => id !== submissionId), submissionId];
  return `b${signText(config.secretKey, BY_BROWSER, sent.slice(-MOST_SENT).join(','))}`;
}

/** The submissions that a browser sent which has this sign; none for any other sign. */
const sentFrom = (key: string, sign: string): string[] =>
  (sign.startsWith('b') ? readSignedText(key, BY_BROWSER, sign.slice(1)) : null)?.split(',') ?? [];

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
  const link = sign.startsWith('l') ? readSignedText(config.secretKey, BY_LINK, sign.slice(1)) : null;
  const sent = link === null ? sentFrom(config.secretKey, sign) : [link];
  if (sent.length === 0) return {};
  const people = await peopleBehind(db, sent);
  const contactId = link === null ? null : (people[0]?.contactId ?? null);
  if (contactId !== null)
    return { ...factsOf(await readKnownContact(db, contactId)), ...answered(await sourcesAnsweredBy(db, contactId)) };
  return {
    ...factsOf({ consent: await consentGivenBy(db, sent), sent: await sentBy(db, sent) }),
    ...answered(people.map(({ sourceId }) => sourceId)),
  };
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
