import { FIELD_PARTS, type SourceField } from '../values/index.ts';
import { controlOf, countryOptions, type Control } from './controls.ts';

/** Names of the inputs that a form carries beside the source's own fields. */
export const TRAP_FIELD = 'website_url';
export const ELAPSED_FIELD = 'seconds_on_page';

export interface FormPage {
  action: string;
  fields: SourceField[];
  button: string;
  /** The words beside the button when sending the form is the consent; '' for none. */
  statement: string;
}

/**
 * The plain HTML of a form, to be pasted into any page. It works without script; the one script line only tells how
 * long the page was open, for the check against robots.
 */
export function printFormHtml({ action, fields, button, statement }: FormPage): string {
  return [
    `<form action="${escapeHtml(action)}" method="post" accept-charset="utf-8">`,
    ...fields.map((field) => indent(printField(field))),
    `  <div style="position:absolute;left:-6000px" aria-hidden="true">`,
    `    <label>Leave this empty <input name="${TRAP_FIELD}" tabindex="-1" autocomplete="off"></label>`,
    `  </div>`,
    `  <input type="hidden" name="${ELAPSED_FIELD}" value="">`,
    ...(statement === '' ? [] : [`  <p>${escapeHtml(statement)}</p>`]),
    `  <button type="submit">${escapeHtml(button)}</button>`,
    `  <script>document.currentScript.closest('form').addEventListener('submit',function(){this.elements['${ELAPSED_FIELD}'].value=Math.round(performance.now()/100)/10})</script>`,
    `</form>`,
  ].join('\n');
}

function printField(field: SourceField): string {
  const name = escapeHtml(field.key);
  const label = escapeHtml(field.label);
  const required = field.required ? ' required' : '';
  const help = field.help === '' ? '' : `\n  <small>${escapeHtml(field.help)}</small>`;
  switch (field.type) {
    case 'hidden':
      return `<input type="hidden" name="${name}" value="${escapeHtml(field.preset)}">`;
    case 'tick':
      return `<p>\n  <label><input type="checkbox" name="${name}" value="yes"${required}> ${label}</label>${help}\n</p>`;
    case 'choice':
      return field.several ? severalChoices(field, label, help) : oneChoice(field, name, label, required, help);
    default: {
      const control = printControl(controlOf({ ...field, type: field.type }), {
        name: field.key,
        label: field.label,
        required: field.required,
      });
      return field.type in FIELD_PARTS ? `${control}${help}` : `<p>\n${control}${help}\n</p>`;
    }
  }
}

/** Parts that not everybody has. */
const MAY_LACK = new Set(['family', 'region']);

interface Labelled {
  name: string;
  label: string;
  required: boolean;
}

/** A control under its label. Of what is entered in parts, each has a label of its own, and the whole has one above. */
function printControl(control: Control, { name, label, required }: Labelled): string {
  const more = required ? ' required' : '';
  const named = `name="${escapeHtml(name)}"`;
  switch (control.kind) {
    case 'input': {
      const attributes = Object.entries(control.attributes).map(([key, value]) => ` ${key}="${escapeHtml(value)}"`);
      const complete = control.autocomplete === '' ? '' : ` autocomplete="${control.autocomplete}"`;
      return `  <label>${escapeHtml(label)}<br><input type="${control.type}" ${named}${complete}${attributes.join('')}${more}></label>`;
    }
    case 'lines':
      return `  <label>${escapeHtml(label)}<br><textarea ${named} rows="5"${more}></textarea></label>`;
    case 'countries':
      return `  <label>${escapeHtml(label)}<br><select ${named} autocomplete="${control.autocomplete}"${more}><option value=""></option>${countryOptions()
        .map(({ code, name: country }) => `<option value="${code}">${escapeHtml(country)}</option>`)
        .join('')}</select></label>`;
    case 'parts':
      return [
        '<fieldset>',
        `  <legend>${escapeHtml(label)}</legend>`,
        ...control.parts.map(
          ({ part, label: own, control: inner }) =>
            `<p>\n${printControl(inner, { name: `${name}.${part}`, label: own, required: required && !MAY_LACK.has(part) })}\n</p>`,
        ),
        '</fieldset>',
      ].join('\n');
    default:
      return control satisfies never;
  }
}

function severalChoices(field: SourceField, label: string, help: string): string {
  const boxes = field.options.map((option) => {
    const text = escapeHtml(option);
    return `  <label><input type="checkbox" name="${escapeHtml(field.key)}" value="${text}"> ${text}</label><br>`;
  });
  return [`<fieldset>`, `  <legend>${label}</legend>`, ...boxes, `</fieldset>${help}`].join('\n');
}

function oneChoice(field: SourceField, name: string, label: string, required: string, help: string): string {
  const options = field.options.map((option) => `    <option>${escapeHtml(option)}</option>`);
  return [
    `<p>`,
    `  <label>${label}<br><select name="${name}"${required}>`,
    `    <option value=""></option>`,
    ...options,
    `  </select></label>${help}`,
    `</p>`,
  ].join('\n');
}

export function escapeHtml(text: string): string {
  const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
  return text.replace(/[&<>"']/g, (sign) => entities[sign] ?? sign);
}

const indent = (text: string) => text.replace(/^/gm, '  ');
