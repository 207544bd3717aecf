import type { Context as HonoContext } from 'hono';
import { html, raw } from 'hono/html';
import type { FormLanguage, KeptFile } from '../../../core/forms/index.ts';
import type { Entries, FieldIssue, FormDocument } from '../../../core/intake/index.ts';
import { prefixFor, printClosed, printForm, printMessage, wordsIn, type Printed } from '../../../forms/index.ts';
import { showPage } from './layout.ts';

export interface FormState {
  action: string;
  document: FormDocument;
  language: FormLanguage;
  /** What was typed, as it was sent; null when nobody typed anything yet. */
  typed: Entries | null;
  issues: FieldIssue[];
  /** Files that came with an earlier try, by field name. */
  kept: Record<string, KeptFile>;
  /** Further inputs that the form brings along. */
  carries: Entries | 'script';
}

/** A form as it stands in a page. */
export function printShown({ action, document, language, typed, issues, kept, carries }: FormState): Printed {
  const wrong = Object.fromEntries(issues.map(({ field, message }) => [field, message]));
  return printForm({
    action,
    face: document,
    language,
    filled: { prefix: prefixFor(action), typed, wrong, kept },
    carries,
  });
}

/** A form on a page of its own: the hosted form, and where a visitor is sent back to with what is wrong. */
export function showForm(c: HonoContext, of: string, state: FormState, status = 200) {
  const { document, language, issues, typed } = state;
  const { html: form, css } = printShown(state);
  const title = document.title === '' && of === '' ? document.button : document.title;
  const shown = {
    title: issues.length > 0 ? wordsIn(language)('again.check', { title: title || of }) : title,
    personal: typed !== null,
    sendsTo: originIn(document.thankYouUrl),
  };
  return showPage(
    c,
    { ...shown, ...around(document, language, of), css: flush(css, document, state.action), body: html`${raw(form)}` },
    status,
  );
}

/** What stands on the form's own page once it was sent. */
export function showThanks(
  c: HonoContext,
  of: string,
  publicId: string,
  document: FormDocument,
  language: FormLanguage,
) {
  const title = wordsIn(language)('thanks');
  const { html: said, css } = printMessage(prefixFor(publicId), document.look, language, {
    title,
    text: document.thankYouMessage,
  });
  return showPage(c, { title, ...around(document, language, of), css, body: html`${raw(said)}` });
}

/** What stands where a form was that takes nothing at the moment. */
export function showClosed(c: HonoContext, of: string, language: FormLanguage, document: FormDocument | null) {
  const say = wordsIn(language);
  if (!document) {
    const body = html`<h1>${say('closed.title')}</h1>
      <p>${say('closed.text')}</p>`;
    return showPage(c, { title: say('closed.title'), language, of, body }, 404);
  }
  const { html: said, css } = printClosed('f-closed', document.look, language, document.closedText);
  return showPage(
    c,
    { title: say('closed.title'), ...around(document, language, of), css, body: html`${raw(said)}` },
    404,
  );
}

/** On a page of its own a form has the page around it, and stands in line with it. */
const flush = (css: string, { look }: FormDocument, action: string): string =>
  look.framed ? css : `${css}\n#${prefixFor(action)}-form{padding:0}`;

const around = ({ look, origins }: FormDocument, language: FormLanguage, of: string) => ({
  language,
  of,
  look,
  framedBy: origins.length === 0 ? '*' : ["'self'", ...origins].join(' '),
});

const originIn = (url: string): string => (URL.canParse(url) ? new URL(url).origin : '');
