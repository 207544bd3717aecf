import type { Context as HonoContext } from 'hono';
import { languageFor, STAMP_FIELD, type FormLanguage, type KeptFile } from '../../../core/forms/index.ts';
import type { Entries, FieldIssue, FormDocument } from '../../../core/intake/index.ts';
import type { SentPart, WorkWanted } from '../../../contract/placing.ts';
import { issuesIn, languageOf } from '../../../forms/index.ts';
import type { Context } from '../../context.ts';
import { signTime } from '../../security/stamps.ts';
import { WORK_BITS } from '../../security/work.ts';
import { Problem, problemResponse } from '../problems.ts';
import { afterSending, type Outcome } from './afterSending.ts';
import { printKept, printShown, showClosed, showEnding, showForm, showKept, type FormState } from './formPage.ts';
import type { LiveSource } from './liveSources.ts';
import { AGAIN_SECONDS, asked, organisationName, showTrouble } from './troubles.ts';

/** Why a submission was not taken, for the page or the problem document that says so. */
export type Refusal =
  | KeptOutcome
  | { task: string }
  | { problem: Problem }
  | { source: LiveSource; document: FormDocument; again: ShownAgain }
  | { issues: FieldIssue[] };

/** A form shown, or shown again with what was typed and what is wrong with it. */
export interface ShownAgain {
  typed: Entries | null;
  issues: FieldIssue[];
  /** Whether it could not be taken for a reason of ours. */
  failed?: boolean;
  kept: Record<string, KeptFile>;
  msSinceShown: number;
  /** The page of it that they were on. */
  at?: string | undefined;
  /** What the form brings along about how the visitor came. */
  came: [name: string, value: string][];
}

/** A form that was left half filled in, and the token of the link by which it is gone on with. */
export interface KeptOutcome {
  source: LiveSource;
  document: FormDocument;
  laterToken: string;
}

/** Answers what was not simply taken: by a page, by a part of one for a script, or by a problem document. */
export function answerTo(
  context: Context,
  c: HonoContext,
  answered: Refusal | Outcome,
  asJson: boolean,
): Response | Promise<Response> {
  if ('task' in answered) return c.json({ task: answered.task, bits: WORK_BITS } satisfies WorkWanted, 428);
  if ('laterToken' in answered) return keptAnswer(context, c, answered);
  if ('ids' in answered) return endingAnswer(context, c, answered);
  if (asPart(c) && 'again' in answered) return c.json(againPart(context, c, answered), 422);
  return asJson ? problemAnswer(c, answered) : pageAnswer(context, c, answered);
}

/** Says by which link a form is gone on with that was left half filled in. */
async function keptAnswer(
  context: Context,
  c: HonoContext,
  { source, document, laterToken }: KeptOutcome,
): Promise<Response> {
  const form = { publicId: source.publicId, document, language: languageIn(c, document) };
  const url = `${context.config.publicUrl}/in/${source.publicId}?later=${laterToken}`;
  if (!asPart(c)) return showKept(c, await organisationName(context), form, url);
  const { html } = printKept(form, url);
  return c.json({ html, taken: false, next: null, seconds: 0 } satisfies SentPart);
}

/** What stands on our own page where the ending holds answers, which no address of ours may. */
async function endingAnswer(context: Context, c: HonoContext, outcome: Outcome): Promise<Response> {
  const document = outcome.source.live as FormDocument;
  const { ending, answerOf, facts } = afterSending(context, outcome);
  const page = { publicId: outcome.source.publicId, document, language: languageIn(c, document) };
  return showEnding(c, await organisationName(context), page, ending, answerOf, facts);
}

/** What a script puts in the place of a form that has to be mended. */
function againPart(
  context: Context,
  c: HonoContext,
  { source, document, again }: Extract<Refusal, { again: ShownAgain }>,
): SentPart {
  const language = languageIn(c, document);
  const issues = issuesIn(language, document, again.typed ?? [], again.issues);
  const action = `${context.config.publicUrl}/in/${source.publicId}`;
  const { html } = printShown({
    ...again,
    issues,
    action,
    document,
    language,
    carries: 'script',
    version: source.liveVersion ?? 0,
  });
  return { html, taken: false, next: null, seconds: 0 };
}

/** Says on a page why nothing was taken. */
async function pageAnswer(
  context: Context,
  c: HonoContext,
  refusal: Exclude<Refusal, KeptOutcome | { task: string }>,
): Promise<Response> {
  if ('issues' in refusal) return problemAnswer(c, refusal);
  const of = await organisationName(context);
  if ('again' in refusal) {
    const { source, document, again } = refusal;
    const language = languageIn(c, document);
    const issues = issuesIn(language, document, again.typed ?? [], again.issues);
    if (again.failed) c.header('retry-after', String(AGAIN_SECONDS));
    return showForm(
      c,
      of,
      stateOf(context, source, document, language, { ...again, issues }),
      again.failed ? 503 : 422,
    );
  }
  if (refusal.problem.status === 404) return showClosed(c, of, languageFor(asked(c)), null);
  return showTrouble(c, of, refusal.problem);
}

/** As the IETF draft of the Idempotency-Key header field has it (draft-ietf-httpapi-idempotency-key-header, 2.7). */
export const KEY_USED = () =>
  new Problem(
    422,
    'idempotency-key-used',
    'This Idempotency-Key was used for another request before. Nothing was taken; send it with a key of its own.',
  );

function problemAnswer(c: HonoContext, refusal: Exclude<Refusal, KeptOutcome | { task: string }>): Response {
  const problem =
    'problem' in refusal ? refusal.problem : notValid('issues' in refusal ? refusal.issues : refusal.again.issues);
  const response = problemResponse(problem);
  return c.newResponse(response.body, problem.status, Object.fromEntries(response.headers));
}

/** What is wrong with the fields of what was sent. */
export const notValid = (issues: FieldIssue[]): Problem =>
  new Problem(
    422,
    'invalid',
    'Something in it is not right.',
    issues.map(({ field, message, part }) => ({
      pointer: part === undefined ? `/${field}` : `/${part}/${field}`,
      detail: message,
    })),
  );

/** A form as it is shown to a visitor now. */
export function stateOf(
  { config, now }: Context,
  source: LiveSource,
  document: FormDocument,
  language: FormLanguage,
  { msSinceShown, came, ...again }: ShownAgain,
): FormState {
  const stamp = signTime(config.secretKey, now() - msSinceShown);
  const carries: [string, string][] = [[STAMP_FIELD, stamp], ...came];
  return { ...again, action: `/in/${source.publicId}`, document, language, carries, version: source.liveVersion ?? 0 };
}

/** Whether a script on a page of others asks, which puts what it is answered in the place of the form. */
export const asPart = (c: HonoContext): boolean => c.req.query('as') === 'part';

export const languageIn = (c: HonoContext, document: FormDocument): FormLanguage => languageOf(document, asked(c));
