import type { Entries } from '../intake/index.ts';
import { inBytes, isTicked, sentFor, type SourceField, type Width } from '../values/index.ts';
import { controlOf, countryOptions, type Control } from './controls.ts';

/** A file that was sent before, and is kept while the rest of the form is mended. */
export interface KeptFile {
  name: string;
  /** Bytes. */
  size: number;
  /** By which it is found again. */
  token: string;
}

/** What a form holds when it is shown. */
export interface Filled {
  /** In front of the ids of its elements, so that two forms can stand on one page. */
  prefix: string;
  /** What was typed, as it was sent; null when nobody typed anything yet. */
  typed: Entries | null;
  /** What is wrong, by field name. */
  wrong: Record<string, string>;
  kept: Record<string, KeptFile>;
}

/** The name of the input that stands for a file that is kept. */
export const keptName = (key: string): string => `${key}.kept`;

/** Rows of a list that a form shows at least. */
const ROWS = 3;

const WIDTHS: Record<Width, string> = {
  full: 'flex:1 1 100%',
  half: 'flex:1 1 45%;min-width:12rem',
  third: 'flex:1 1 28%;min-width:9rem',
};

/** Seen by nobody, and read aloud. */
const UNSEEN = 'position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);white-space:nowrap';

/** Parts that not everybody has. */
const MAY_LACK = new Set(['family', 'region']);

/** The HTML of one field, the same wherever its form is shown: to be copied, on its own page, or shown again after a mistake. */
export function printField(field: SourceField, filled: Filled): string {
  const control = controlOf(field);
  const sent = filled.typed === null ? presetOf(field) : sentFor(field, filled.typed);
  if (control.kind === 'hidden') {
    return `<input type="hidden" ${attributes({ name: field.key, value: sent[0] || field.preset })}>`;
  }
  const id = `${filled.prefix}-${field.key}`;
  const wrong = filled.wrong[field.key] ?? '';
  const described = [wrong ? `${id}-wrong` : '', field.help ? `${id}-help` : ''].filter((one) => one !== '').join(' ');
  const state: Record<string, string | true> = {
    ...(wrong ? { 'aria-invalid': 'true' } : {}),
    ...(described ? { 'aria-describedby': described } : {}),
    ...(field.required ? { required: true } : {}),
  };
  const below = [
    ...(wrong ? [`  <p class="wrong" id="${escapeHtml(id)}-wrong">${escapeHtml(wrong)}</p>`] : []),
    ...(field.help ? [`  <p class="help" id="${escapeHtml(id)}-help">${escapeHtml(field.help)}</p>`] : []),
  ];
  const shown: Shown = { field, id, sent, state, described, filled };
  // Said here, so that a form looks right on a page that brings no style for it.
  const style = attributes({ style: `${WIDTHS[field.width]};margin:0 0 1rem` });
  switch (control.kind) {
    case 'tick':
      return block('div', `class="field tick" ${style}`, [...tick(shown), ...below]);
    case 'answers':
      if (control.as === 'list')
        return block('div', `class="field" ${style}`, [...list(shown, control.answers), ...below]);
      return set(shown, style, [...buttons(shown, control), ...below]);
    case 'parts':
      return set(shown, style, [...parts(shown, control.parts), ...below]);
    case 'rows':
      return set(shown, style, [...rows(shown, control.columns), ...below]);
    case 'file':
      return block('div', `class="field" ${style}`, [...file(shown, control.accept), ...below]);
    default:
      return block('div', `class="field" ${style}`, [
        `  ${labelFor(id, field)}`,
        `  ${element(control, { id, name: field.key, value: sent[0] ?? '', state, field })}`,
        ...below,
      ]);
  }
}

/** One field on its way to HTML. */
interface Shown {
  field: SourceField;
  id: string;
  sent: string[];
  state: Record<string, string | true>;
  /** Ids of what describes it. */
  described: string;
  filled: Filled;
}

/** What a field holds at first. A box that gives consent is never ticked for anybody. */
const presetOf = ({ type, widget, preset }: SourceField): string[] =>
  preset === '' || (type === 'yes/no' && widget === 'usual') ? [] : preset.split('\n');

const block = (tag: string, attrs: string, lines: string[]): string =>
  [`<${tag} ${attrs}>`, ...lines, `</${tag}>`].join('\n');

/** Several elements under one heading. */
function set({ field, id, described }: Shown, style: string, lines: string[]): string {
  const about = described === '' ? {} : { 'aria-describedby': described };
  return block('fieldset', `class="field" ${style} ${attributes({ id, ...about })}`, [
    `  <legend${unseen(field)}>${escapeHtml(field.label)}${optional(field)}</legend>`,
    ...lines,
  ]);
}

const optional = ({ required }: SourceField): string => (required ? '' : ' (optional)');
const unseen = ({ labelShown }: SourceField, otherwise = ''): string => {
  const style = labelShown ? otherwise : UNSEEN;
  return style === '' ? '' : ` style="${style}"`;
};
const labelFor = (id: string, field: SourceField): string =>
  `<label for="${escapeHtml(id)}"${unseen(field, 'display:block')}>${escapeHtml(field.label)}${optional(field)}</label>`;

const tick = ({ field, id, sent, state }: Shown): string[] => [
  `  <label><input type="checkbox" ${attributes({ id, name: field.key, value: 'yes', checked: isTicked(sent), ...state })}> <span>${escapeHtml(field.label)}</span></label>`,
];

type Answers = Extract<Control, { kind: 'answers' }>['answers'];

const list = ({ field, id, sent, state }: Shown, answers: Answers): string[] => [
  `  ${labelFor(id, field)}`,
  `  <select ${attributes({ id, name: field.key, ...completing(field), ...state })}>`,
  `    <option value="">${escapeHtml(field.placeholder)}</option>`,
  ...answers.map(({ value, label }) => `    ${option(value, label, sent[0] === value)}`),
  '  </select>',
];

const buttons = ({ field, sent, state }: Shown, { as, answers }: Extract<Control, { kind: 'answers' }>): string[] =>
  answers.map(({ value, label }) => {
    const type = as === 'boxes' ? 'checkbox' : 'radio';
    const required = as === 'buttons' && state.required === true;
    return `  <div><label><input type="${type}" ${attributes({ name: field.key, value, checked: sent.includes(value), required })}> <span>${escapeHtml(label)}</span></label></div>`;
  });

function parts({ field, id, state, filled }: Shown, controls: Extract<Control, { kind: 'parts' }>['parts']): string[] {
  return controls.flatMap(({ part, label, control }) => {
    const name = `${field.key}.${part}`;
    const value = filled.typed?.find(([own]) => own === name)?.[1] ?? '';
    const { required, ...others } = state;
    const own = { ...others, ...(required && !MAY_LACK.has(part) ? { required: true as const } : {}) };
    return [
      '  <div class="part">',
      `    <label for="${escapeHtml(`${id}-${part}`)}">${escapeHtml(label)}</label>`,
      `    ${element(control, { id: `${id}-${part}`, name, value, state: own, field: { placeholder: '', autocomplete: '' } })}`,
      '  </div>',
    ];
  });
}

/** A small table to fill in: a row each record, a column each of its values. */
function rows({ field, sent, state }: Shown, columns: string[]): string[] {
  const typed = recordsIn(sent[0] ?? '');
  const count = Math.max(ROWS, typed.length);
  const cell = (row: number, column: string, at: number) => {
    const value = typed[row]?.[column];
    const text = value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
    const required = state.required === true && row === 0;
    return `<td><input ${attributes({ name: `${field.key}.${row}.${at}`, value: text, 'aria-label': `${column}, row ${row + 1}`, required })}></td>`;
  };
  return [
    '  <table>',
    `    <tr>${columns.map((column) => `<th scope="col">${escapeHtml(column)}</th>`).join('')}</tr>`,
    ...Array.from(
      { length: count },
      (_, row) => `    <tr>${columns.map((column, at) => cell(row, column, at)).join('')}</tr>`,
    ),
    '  </table>',
  ];
}

function recordsIn(text: string): Record<string, unknown>[] {
  try {
    const read: unknown = JSON.parse(text);
    return Array.isArray(read) ? (read as Record<string, unknown>[]) : [];
  } catch {
    return [];
  }
}

function file({ field, id, state, filled }: Shown, accept: string): string[] {
  const kept = filled.kept[field.key];
  const { required, ...others } = state;
  const own = {
    ...others,
    ...(required && !kept ? { required: true as const } : {}),
    ...(accept === '' ? {} : { accept }),
  };
  return [
    `  ${labelFor(id, field)}`,
    `  <input type="file" ${attributes({ id, name: field.key, ...own })}>`,
    ...(kept
      ? [
          `  <p class="help">${escapeHtml(kept.name)} (${escapeHtml(inBytes(kept.size))}) is kept; choose another to send that instead.</p>`,
          `  <input type="hidden" ${attributes({ name: keptName(field.key), value: kept.token })}>`,
        ]
      : []),
  ];
}

interface Element {
  id: string;
  name: string;
  value: string;
  state: Record<string, string | true>;
  field: Pick<SourceField, 'placeholder' | 'autocomplete'>;
}

/** One input, text area or list of countries. */
function element(control: Control, { id, name, value, state, field }: Element): string {
  const placeholder = field.placeholder === '' ? {} : { placeholder: field.placeholder };
  switch (control.kind) {
    case 'lines':
      return `<textarea ${attributes({ id, name, rows: '5', ...completing(field), ...placeholder, ...state })}>${escapeHtml(value)}</textarea>`;
    case 'countries': {
      const options = countryOptions().map(({ code, name: country }) => option(code, country, code === value, true));
      const own = { ...completing(field, control.autocomplete), ...state };
      return `<select ${attributes({ id, name, ...own })}><option value="">${escapeHtml(field.placeholder)}</option>${options.join('')}</select>`;
    }
    case 'input':
      return `<input type="${control.type}" ${attributes({
        id,
        name,
        value,
        ...completing(field, control.autocomplete),
        ...control.attributes,
        ...placeholder,
        ...state,
      })}>`;
    default:
      return '';
  }
}

/** What browsers may fill in: what was chosen by hand, or what the type and meaning of the field say. */
function completing({ autocomplete }: Pick<SourceField, 'autocomplete'>, usual = ''): { autocomplete?: string } {
  const token = autocomplete === '' ? usual : autocomplete;
  return token === '' ? {} : { autocomplete: token };
}

const option = (value: string, label: string, chosen: boolean, valued = value !== label): string =>
  `<option${valued ? ` value="${escapeHtml(value)}"` : ''}${chosen ? ' selected' : ''}>${escapeHtml(label)}</option>`;

/** Attributes of an element; those that are false are left out. */
const attributes = (all: Record<string, string | boolean | undefined>): string =>
  Object.entries(all)
    .filter(([, value]) => value !== false && value !== undefined)
    .map(([name, value]) => (value === true ? name : `${name}="${escapeHtml(String(value))}"`))
    .join(' ');

export function escapeHtml(text: string): string {
  const entities: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
  return text.replace(/[&<>"']/g, (sign) => entities[sign] ?? sign);
}
