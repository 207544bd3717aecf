import { html, raw } from 'hono/html';
import type { Entries, FieldIssue, SourceDocument } from '../../../core/intake/index.ts';
import { autocompleteFor, ELAPSED_FIELD, TRAP_FIELD } from '../../../core/formats/index.ts';
import { isTicked, type SourceField } from '../../../core/values/index.ts';
import { page } from './layout.ts';

/** Carries the signed time at which a page of ours was first shown. */
export const STAMP_FIELD = 'form_shown';

/** Carries the page that the visitor first sent the form from, when it is shown again by us. */
export const PAGE_FIELD = 'form_page';

export interface FormState {
  title: string;
  action: string;
  document: SourceDocument;
  /** What was typed, as it was sent. */
  typed: Entries;
  issues: FieldIssue[];
  stamp: string;
  /** The page that the form was first sent from; '' when it is this one. */
  firstPage: string;
}

/** A form on a page of its own: the hosted form, and where a visitor is sent back to with what is wrong. */
export function formPage({ title, action, document, typed, issues, stamp, firstPage }: FormState) {
  const heading = issues.length > 0 ? 'Nearly there' : title;
  const wrong = (field: SourceField) => issues.find((issue) => issue.field === field.key)?.message ?? '';
  const sent = (field: SourceField) => typed.filter(([name]) => name === field.key).map(([, value]) => value);
  const summary = issues.map((issue) => {
    const field = document.fields.find(({ key }) => key === issue.field);
    return html`<li><a href="#field-${issue.field}">${field?.label ?? issue.field}</a>: ${issue.message}</li>`;
  });
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
      <form action="${action}" method="post" novalidate>
        ${document.fields.map((field) => fieldHtml(field, sent(field), wrong(field)))}
        <div class="away" aria-hidden="true">
          <label>Leave this empty <input name="${TRAP_FIELD}" tabindex="-1" autocomplete="off" /></label>
        </div>
        <input type="hidden" name="${ELAPSED_FIELD}" value="" />
        <input type="hidden" name="${STAMP_FIELD}" value="${stamp}" />
        ${firstPage === '' ? '' : html`<input type="hidden" name="${PAGE_FIELD}" value="${firstPage}" />`}
        ${document.statement === '' ? '' : html`<p>${document.statement}</p>`}
        <button type="submit">${document.button}</button>
      </form>`,
  );
}

function fieldHtml(field: SourceField, sent: string[], wrong: string) {
  const id = `field-${field.key}`;
  const first = sent[0] ?? '';
  if (field.type === 'hidden')
    return html`<input type="hidden" name="${field.key}" value="${first || field.preset}" />`;
  const notes = [wrong ? `${id}-wrong` : '', field.help ? `${id}-help` : ''].filter(Boolean).join(' ');
  const state = raw(
    `${wrong ? 'aria-invalid="true" ' : ''}${notes ? `aria-describedby="${notes}" ` : ''}${field.required ? 'required' : ''}`,
  );
  const below = html`${wrong ? html`<p class="wrong" id="${id}-wrong">${wrong}</p>` : ''}${field.help ? html`<p class="help" id="${id}-help">${field.help}</p>` : ''}`;
  const optional = field.required ? '' : ' (optional)';
  switch (field.type) {
    case 'tick':
      return html`<div class="field tick">
        <label
          ><input
            type="checkbox"
            id="${id}"
            name="${field.key}"
            value="yes"
            ${raw(isTicked(sent) ? 'checked' : '')}
            ${state}
          />
          <span>${field.label}</span></label
        >${below}
      </div>`;
    case 'choice':
      if (field.several) {
        return html`<fieldset class="field" id="${id}">
          <legend>${field.label}${optional}</legend>
          ${field.options.map((option) => html`<label><input type="checkbox" name="${field.key}" value="${option}" ${raw(sent.includes(option) ? 'checked' : '')} /> ${option}</label>`)}${below}
        </fieldset>`;
      }
      return html`<div class="field">
        <label for="${id}">${field.label}${optional}</label>
        <select id="${id}" name="${field.key}" ${state}>
          <option value=""></option>
          ${field.options.map((option) => html`<option ${raw(option === first ? 'selected' : '')}>${option}</option>`)}</select
        >${below}
      </div>`;
    case 'email':
    case 'text': {
      const complete = field.type === 'email' ? ' autocomplete="email"' : autocompleteFor(field.keepAs);
      return html`<div class="field">
        <label for="${id}">${field.label}${optional}</label>
        <input type="${field.type}" id="${id}" name="${field.key}" value="${first}" ${raw(complete)} ${state} />${below}
      </div>`;
    }
    default:
      return field.type satisfies never;
  }
}
