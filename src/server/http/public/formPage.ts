import { serialised } from './origins.ts';
import type { Context as HonoContext } from 'hono';
import { html, raw } from 'hono/html';
import type { Ending, FormLanguage, KeptFile } from '../../../core/forms/index.ts';
import type { Entries, FieldIssue, FormDocument } from '../../../core/intake/index.ts';
import { PARTIAL_FORM_DAYS } from '../../intake/partialForms.ts';
import {
  prefixFor,
  printClosed,
  printEnding,
  type EndingFacts,
  printForm,
  printInstead,
  printMessage,
  wordsIn,
  type Printed,
} from '../../../forms/index.ts';
import { showPage } from './layout.ts';

/** Runs on a form's own page: pages, what belongs to the answers, counting. */
const OWN_SCRIPT = '/place/own.js';

export interface FormState {
  action: string;
  document: FormDocument;
  language: FormLanguage;
  /** What was typed, as it was sent; null when nobody typed anything yet. */
  typed: Entries | null;
  issues: FieldIssue[];
  /** Whether it could not be taken for a reason of ours. */
  failed?: boolean;
  /** Files that came with an earlier try, by field name. */
  kept: Record<string, KeptFile>;
  /** The page of it that somebody was on; absent for the first. */
  at?: string | undefined;
  /** Further inputs that the form brings along. */
  carries: Entries | 'script';
  /** The published version that is shown. */
  version: number;
}

/** A form as it stands in a page. */
export function printShown({
  action,
  document,
  language,
  typed,
  issues,
  failed,
  kept,
  at,
  carries,
  version,
}: FormState): Printed {
  const wrong = Object.fromEntries(issues.map(({ field, message }) => [field, message]));
  return printForm({
    action,
    face: document,
    language,
    filled: {
      prefix: prefixFor(action),
      typed,
      wrong,
      kept,
      ...(failed ? { failed } : {}),
      ...(at === undefined ? {} : { at }),
    },
    carries,
    version,
  });
}

/** A form on a page of its own: the hosted form, and where a visitor is sent back to with what is wrong. */
export function showForm(c: HonoContext, of: string, state: FormState, status = 200) {
  const { document, language, issues, typed, failed } = state;
  const { html: form, css } = printShown(state);
  const title = document.title === '' && of === '' ? document.button : document.title;
  const shown = {
    title: failed
      ? wordsIn(language)('notSent')
      : issues.length > 0
        ? wordsIn(language)('again.check', { title: title || of })
        : title,
    personal: typed !== null,
    sendsTo: [document.ending, ...document.endings]
      .map(({ next }) => originIn(next))
      .join(' ')
      .trim(),
    runs: OWN_SCRIPT,
  };
  return showPage(
    c,
    { ...shown, ...around(document, language, of), css: flush(css, document, state.action), body: html`${raw(form)}` },
    status,
  );
}

/** A form of which something is said on its own page. */
export interface FormSaid {
  publicId: string;
  document: FormDocument;
  language: FormLanguage;
}

/** A page of a form that says something instead of it. */
const showSaid = (
  c: HonoContext,
  of: string,
  { document, language }: Omit<FormSaid, 'publicId'>,
  { title, said: { html: said, css }, ...more }: { title: string; said: Printed; personal?: boolean },
  status = 200,
) => showPage(c, { title, ...around(document, language, of), css, body: html`${raw(said)}`, ...more }, status);

/** What stands on the form's own page once it was sent. @param answerOf the answer to a field, in words */
export function showEnding(
  c: HonoContext,
  of: string,
  form: FormSaid,
  ending: Ending,
  answerOf: (field: string) => string,
  facts: EndingFacts,
) {
  const { look } = form.document;
  const said = printEnding(prefixFor(form.publicId), look, form.language, ending, answerOf, facts);
  return showSaid(c, of, form, { title: ending.title || wordsIn(form.language)('thanks'), said, personal: true });
}

/** What a visitor sees instead of the form of whom something is known. */
export function showInstead(c: HonoContext, of: string, form: FormSaid, instead: Ending) {
  const said = printInstead(prefixFor(form.publicId), form.document, form.language, instead);
  return showSaid(c, of, form, { title: instead.title || form.document.title, said, personal: true });
}

/** What stands in the place of a form that was left half filled in. @param url the link by which it is gone on with */
export function printKept({ publicId, document, language }: FormSaid, url: string): Printed {
  const say = wordsIn(language);
  return printMessage(prefixFor(publicId), document.look, language, {
    title: say('later.title'),
    text: `${say('later.text', { days: PARTIAL_FORM_DAYS })}\n\n${url}`,
    link: { label: say('later.now'), url },
  });
}

export const showKept = (c: HonoContext, of: string, form: FormSaid, url: string) =>
  showSaid(c, of, form, {
    title: wordsIn(form.language)('later.title'),
    said: printKept(form, url),
    personal: true,
  });

/** What stands where a link leads that cannot be gone on with. */
export function showGone(c: HonoContext, of: string, form: FormSaid) {
  const { publicId, document, language } = form;
  const say = wordsIn(language);
  const title = say('later.gone');
  const said = printMessage(prefixFor(publicId), document.look, language, {
    title,
    text: say('later.goneText', { days: PARTIAL_FORM_DAYS }),
    link: { label: document.title || of || say('later.now'), url: `/in/${publicId}` },
  });
  return showSaid(c, of, form, { title, said }, 410);
}

/** What stands where a form was that takes nothing at the moment. */
export function showClosed(c: HonoContext, of: string, language: FormLanguage, document: FormDocument | null) {
  const say = wordsIn(language);
  if (!document) {
    const body = html`<h1>${say('closed.title')}</h1>
      <p>${say('closed.text')}</p>`;
    return showPage(c, { title: say('closed.title'), language, of, body }, 404);
  }
  const said = printClosed('f-closed', document.look, language, document.closedText);
  return showSaid(c, of, { document, language }, { title: say('closed.title'), said }, 404);
}

/** On a page of its own a form has the page around it, and stands in line with it. */
const flush = (css: string, { look }: FormDocument, action: string): string =>
  look.framed ? css : `${css}\n#${prefixFor(action)}-form{padding:0}`;

const around = ({ look, origins }: FormDocument, language: FormLanguage, of: string) => ({
  language,
  of,
  look,
  // What was kept before sites were looked at so closely may hold a sign that begins something else in this header.
  framedBy: origins.length === 0 ? '*' : ["'self'", ...origins.map(serialised).filter(isPlain)].join(' '),
});

const isPlain = (origin: string): boolean => /^https?:\/\/[a-z0-9.:[\]-]+$/.test(origin);

const originIn = (url: string): string => (URL.canParse(url) ? new URL(url).origin : '');
