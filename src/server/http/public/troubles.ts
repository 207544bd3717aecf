import type { Context as HonoContext, Env } from 'hono';
import { html } from 'hono/html';
import { languageFor } from '../../../core/forms/index.ts';
import { wordsIn } from '../../../forms/index.ts';
import type { Context } from '../../context.ts';
import { readOrganisationNames } from '../../store/organisation.ts';
import { Problem, problemOf, problemResponse } from '../problems.ts';
import { dressing } from '../safeHeaders.ts';
import { showPage } from './layout.ts';

/** After so long a visitor is asked to try again. */
export const AGAIN_SECONDS = 60;

export const WRONG_SITE = () =>
  new Problem(
    403,
    'origin-not-allowed',
    'This form does not take anything from the site that you came from. Please tell its owner.',
  );

/** What the browser asks for. */
export const asked = (c: HonoContext): string => c.req.header('accept-language') ?? '';

/** Whether somebody looks at the answer, rather than a program. */
export const isLookedAt = (c: HonoContext): boolean => (c.req.header('accept') ?? '').includes('text/html');

/** The name by which people know whose page it is; '' while nobody said, or nobody can be asked. */
export const organisationName = async ({ store }: Context): Promise<string> => {
  const names = await readOrganisationNames(store.db).catch(() => []);
  return names[0] ?? '';
};

/** Says on a page, in the visitor's language, why nothing was taken, and what to do. */
export function showTrouble(c: HonoContext, of: string, { status, slug, message, headers }: Problem) {
  const language = languageFor(asked(c));
  const say = wordsIn(language);
  for (const [name, value] of Object.entries(headers)) c.header(name, value);
  const isSending = c.req.method === 'POST';
  const texts: Partial<Record<string, string>> = {
    'too-many': say('tooOften', { seconds: headers['retry-after'] ?? '' }),
    [WRONG_SITE().slug]: say('wrongSite'),
    'too-large': say('tooMuch'),
    away: say(isSending ? 'failed' : 'awayText'),
    internal: say(isSending ? 'failed' : 'awayText'),
  };
  const title = say(isSending ? 'notSent' : 'away');
  const back = isSending && ['too-many', 'too-large', 'away', 'internal'].includes(slug);
  const body = html`<h1>${title}</h1>
    <p>${texts[slug] ?? message}</p>
    ${back ? html`<p>${say('goBack')}</p>` : ''}`;
  return showPage(c, { title, language, of, body, personal: true }, status);
}

/** An answer with the headers that all our pages have, where nothing else put them there. */
async function dress({ config }: Context, c: HonoContext, answer: Response): Promise<Response> {
  await dressing(config.publicUrl)(c as HonoContext<Env, string>, () => Promise.resolve(void (c.res = answer)));
  return c.res;
}

/** Answers where something is not taken, before anything else was said: people get a page, programs a problem document. */
export async function answerTrouble(context: Context, c: HonoContext, problem: Problem): Promise<Response> {
  const answer = isLookedAt(c)
    ? await showTrouble(c, await organisationName(context), problem)
    : problemResponse(problem);
  return dress(context, c, answer);
}

/** The same where something broke. */
export const afterBreak =
  (context: Context) =>
  (error: Error, c: HonoContext): Promise<Response> =>
    answerTrouble(context, c, problemOf(error, context.log));
