import { html, raw } from 'hono/html';
import type { Entries, FieldIssue, SourceDocument } from '../../../core/intake/index.ts';
import {
  controlOf,
  countryOptions,
  ELAPSED_FIELD,
  escapeHtml,
  TRAP_FIELD,
  type Control,
} from '../../../core/formats/index.ts';
import { isTicked, sentFor, type SourceField } from '../../../core/values/index.ts';
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
        ${document.fields.map((field) => fieldHtml(field, typed, wrong(field)))}
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

function fieldHtml(field: SourceField, typed: Entries, wrong: string) {
  const id = `field-${field.key}`;
  const sent = sentFor(field, typed);
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
    default: {
      const control = controlOf({ ...field, type: field.type });
      if (control.kind === 'parts') {
        return html`<fieldset class="field" id="${id}">
          <legend>${field.label}${optional}</legend>
          ${control.parts.map(({ part, label, control: inner }) => {
            const value = typed.find(([name]) => name === `${field.key}.${part}`)?.[1] ?? '';
            return html`<div class="part">
              <label for="${id}-${part}">${label}</label>
              ${controlHtml(inner, { id: `${id}-${part}`, name: `${field.key}.${part}`, value, state: wrong ? raw('aria-invalid="true"') : '' })}
            </div>`;
          })}${below}
        </fieldset>`;
      }
      return html`<div class="field">
        <label for="${id}">${field.label}${optional}</label>
        ${controlHtml(control, { id, name: field.key, value: first, state })}${below}
      </div>`;
    }
  }
}

interface Filled {
  id: string;
  name: string;
  value: string;
  /** What else the element says: whether it is wrong, described, required. */
  state: ReturnType<typeof raw> | string;
}

function controlHtml(control: Control, { id, name, value, state }: Filled) {
  switch (control.kind) {
    case 'lines':
      return html`<textarea id="${id}" name="${name}" rows="5" ${state}>${value}</textarea>`;
    case 'countries':
      return html`<select id="${id}" name="${name}" autocomplete="${control.autocomplete}" ${state}>
        <option value=""></option>
        ${countryOptions().map(({ code, name: country }) => html`<option value="${code}" ${raw(code === value ? 'selected' : '')}>${country}</option>`)}
      </select>`;
    case 'input': {
      const attributes = {
        ...(control.autocomplete === '' ? {} : { autocomplete: control.autocomplete }),
        ...control.attributes,
      };
      const more = Object.entries(attributes).map(([key, text]) => `${key}="${escapeHtml(text)}"`);
      return html`<input
        type="${control.type}"
        id="${id}"
        name="${name}"
        value="${value}"
        ${raw(more.join(' '))}
        ${state}
      />`;
    }
    case 'parts':
      return '';
    default:
      return control satisfies never;
  }
}
