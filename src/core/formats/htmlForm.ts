import { PAGE_FIELD, REFERRER_FIELD, type FormDocument } from '../intake/index.ts';
import { escapeHtml, printField, type Filled } from './fieldHtml.ts';

/** Names of the inputs that a form carries beside the source's own fields. */
export const TRAP_FIELD = 'website_url';
export const ELAPSED_FIELD = 'seconds_on_page';
/** In which a hosted page says when it was shown, signed. */
export const STAMP_FIELD = 'form_shown';

export interface FormPage {
  action: string;
  document: Pick<FormDocument, 'fields' | 'button' | 'resetLabel' | 'statement'>;
  filled: Filled;
  /** What our own page knows and the form brings along; a page of others has a line of script instead. */
  carries: [name: string, value: string][] | 'script';
}

/**
 * The plain HTML of a form. It works without script: to be pasted into any page, where one line of script only tells how
 * long the page was open, for the check against robots, and which page it is; or on our own page, which knows both.
 */
export function printFormHtml({ action, document, filled, carries }: FormPage): string {
  const { fields, button, resetLabel, statement } = document;
  const own = carries === 'script' ? [PAGE_FIELD, REFERRER_FIELD].map((name): [string, string] => [name, '']) : carries;
  const hasFiles = fields.some(({ type }) => type === 'file');
  const narrow = fields.some(({ width }) => width !== 'full');
  return [
    `<form action="${escapeHtml(action)}" method="post" accept-charset="utf-8"${hasFiles ? ' enctype="multipart/form-data"' : ''}${carries === 'script' ? '' : ' novalidate'}>`,
    ...(narrow ? ['<div class="fields" style="display:flex;flex-wrap:wrap;column-gap:1rem">'] : []),
    ...fields.map((field) => indent(printField(field, filled))),
    ...(narrow ? ['</div>'] : []),
    `  <div style="position:absolute;left:-6000px" aria-hidden="true">`,
    `    <label>Leave this empty <input name="${TRAP_FIELD}" tabindex="-1" autocomplete="off"></label>`,
    `  </div>`,
    ...[[ELAPSED_FIELD, ''] as const, ...own].map(
      ([name, value]) => `  <input type="hidden" name="${name}" value="${escapeHtml(value)}">`,
    ),
    ...(statement === '' ? [] : [`  <p>${escapeHtml(statement)}</p>`]),
    `  <button type="submit">${escapeHtml(button)}</button>`,
    ...(resetLabel === '' ? [] : [`  <button type="reset">${escapeHtml(resetLabel)}</button>`]),
    ...(carries === 'script' ? [`  <script>${SCRIPT}</script>`] : []),
    `</form>`,
  ].join('\n');
}

/** The form as it is copied into a page of others. @param action its public address, whose last part tells its ids apart */
export const printFormToCopy = (action: string, document: FormPage['document']): string =>
  printFormHtml({
    action,
    document,
    filled: { prefix: action.split('/').at(-1)?.replace(/\W/g, '-') ?? '', typed: null, wrong: {}, kept: {} },
    carries: 'script',
  });

const SCRIPT = `document.currentScript.closest('form').addEventListener('submit',function(){var e=this.elements;e['${ELAPSED_FIELD}'].value=Math.round(performance.now()/100)/10;e['${PAGE_FIELD}'].value=location.href;e['${REFERRER_FIELD}'].value=document.referrer})`;

// Not inside a text area, whose lines are what was typed.
const indent = (html: string) => html.replace(/^(?=\s*<)/gm, '  ');
