import { html, raw } from 'hono/html';
import { printFormHtml, type KeptFile } from '../../../core/formats/index.ts';
import type { Entries, FieldIssue, FormDocument } from '../../../core/intake/index.ts';
import { page } from './layout.ts';

export interface FormState {
  title: string;
  action: string;
  document: FormDocument;
  /** What was typed, as it was sent; null when nobody typed anything yet. */
  typed: Entries | null;
  issues: FieldIssue[];
  /** Files that came with an earlier try, by field name. */
  kept: Record<string, KeptFile>;
  /** Further inputs that the form brings along. */
  carries: [name: string, value: string][];
}

/** A form on a page of its own: the hosted form, and where a visitor is sent back to with what is wrong. */
export function formPage({ title, action, document, typed, issues, kept, carries }: FormState) {
  const heading = issues.length > 0 ? 'Nearly there' : title;
  const wrong = Object.fromEntries(issues.map(({ field, message }) => [field, message]));
  const summary = issues.map((issue) => {
    const field = document.fields.find(({ key }) => key === issue.field);
    return html`<li><a href="#field-${issue.field}">${field?.label ?? issue.field}</a>: ${issue.message}</li>`;
  });
  const form = printFormHtml({ action, document, filled: { prefix: 'field', typed, wrong, kept }, carries });
  return page(
    issues.length > 0 ? `Please check: ${title}` : title,
    html`<h1>${heading}</h1>
      ${
        issues.length > 0
          ? html`<div class="summary" role="alert">
              <strong>Nothing was sent yet. Please look at ${issues.length === 1 ? 'this' : 'these'}:</strong>
              <ul>
                ${summary}
              </ul>
            </div>`
          : ''
      }
      ${raw(form)}`,
  );
}
