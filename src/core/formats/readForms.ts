import { parse } from 'parse5';
import { plainField, type SourceField, type TypeName } from '../values/index.ts';
import { groupBy } from '../groupBy.ts';
import { keyFor, meaningOf } from '../intake/index.ts';
import { ancestorOf, attribute, elementsIn, hasAttribute, isWithin, textOf, type Element, type Node } from './tree.ts';

/** A form that was found in somebody's HTML. */
export interface FoundForm {
  /** What it is called there: a heading or a label of its own; '' for nothing. */
  name: string;
  /** Where it is sent now, as it is written there. */
  action: string;
  fields: SourceField[];
  button: string;
  /** What of it cannot be taken over, in words. */
  unseen: string[];
}

/**
 * What inputs take that browsers see to. A telephone number is not among them: the page takes any text for one (WHATWG HTML,
 * 4.10.5.1.4), most often without its country, and whoever filled it in there must not be refused for it here.
 */
const TYPES: Record<string, TypeName> = {
  email: 'email',
  number: 'number',
  range: 'number',
  date: 'date',
  time: 'time',
  'datetime-local': 'date-time',
  url: 'URL',
  file: 'file',
};

/** Inputs that hold no answer. */
const NO_ANSWERS = new Set(['submit', 'button', 'reset', 'image']);

/**
 * Every form in a page's HTML, as a browser builds it (WHATWG HTML, 13.2): its fields by the names that they are sent under, with
 * labels however they are given, choices, first values and what is hidden.
 */
export function readForms(html: string): FoundForm[] {
  const root = parse(html);
  const forms = elementsIn(root, ({ tagName }) => tagName === 'form');
  const page = indexed(root);
  return forms.map((form) => readForm(page, form));
}

/** A page with what is looked up in it again and again: each label and each id is looked for once, however many controls there are. */
interface Page {
  controls: Element[];
  /** The first element of an id, and the first label for it. */
  byId: Map<string, Element>;
  labels: Map<string, Element>;
}

const CONTROLS = new Set(['input', 'select', 'textarea', 'button']);

function indexed(root: Node): Page {
  const page: Page = { controls: [], byId: new Map(), labels: new Map() };
  for (const element of elementsIn(root, () => true)) {
    if (CONTROLS.has(element.tagName)) page.controls.push(element);
    const id = attribute(element, 'id');
    if (id !== '' && !page.byId.has(id)) page.byId.set(id, element);
    const of = element.tagName === 'label' ? attribute(element, 'for') : '';
    if (of !== '' && !page.labels.has(of)) page.labels.set(of, element);
  }
  return page;
}

function readForm(page: Page, form: Element): FoundForm {
  const id = attribute(form, 'id');
  const own = (element: Element): boolean => {
    const of = attribute(element, 'form');
    return of === '' ? isWithin(element, form) : of === id;
  };
  const controls = page.controls.filter(own);
  const alike = groupBy(controls, (control) => `${attribute(control, 'name')} ${typeOfControl(control)}`);
  const unseen: string[] = [];
  const fields: SourceField[] = [];
  const done = new Set<string>();
  for (const control of controls) {
    const name = attribute(control, 'name');
    const type = typeOfControl(control);
    if (control.tagName === 'button' || NO_ANSWERS.has(type)) continue;
    const label = labelOf(page, control);
    if (type === 'password') {
      unseen.push(`“${label || name}” asks for a password, which is nothing to be handed on.`);
      continue;
    }
    if (name === '') {
      unseen.push(`“${label || type}” has no name: browsers do not send it, so a script there does something with it.`);
      continue;
    }
    if (done.has(name)) continue;
    // A hidden twin says what a box that is left alone means; the box is what is asked.
    if (type === 'hidden' && alike.has(`${name} checkbox`)) continue;
    done.add(name);
    const together = alike.get(`${name} ${type}`) ?? [];
    fields.push(fieldOf(page, control, together, fields));
  }
  const action = attribute(form, 'action');
  if (/^\s*javascript:/i.test(action) || attribute(form, 'onsubmit') !== '')
    unseen.push('A script there sends it, and may add what cannot be seen here.');
  if (fields.length === 0) unseen.push('It has no fields here: a script on the page makes them, which is not run.');
  const named =
    [attribute(form, 'aria-label'), headingIn(form), attribute(form, 'name')].find((text) => text !== '') ?? '';
  const submit = controls.find(
    (control) =>
      (control.tagName === 'button' && attribute(control, 'type') !== 'button') || typeOfControl(control) === 'submit',
  );
  const button = submit ? textOf(submit) || attribute(submit, 'value') : '';
  return { name: named, action, fields, button: button.slice(0, 80), unseen };
}

function fieldOf(page: Page, control: Element, together: Element[], before: SourceField[]): SourceField {
  const name = attribute(control, 'name');
  const type = typeOfControl(control);
  const isGroup = type === 'radio' || (type === 'checkbox' && together.length > 1);
  const label = ((isGroup ? groupLabelOf(control) : '') || labelOf(page, control) || inWords(name)).slice(0, 500);
  const hidden = type === 'hidden';
  const valueType = valueTypeOf(control, type, together);
  const meaning = meaningOf(label) || meaningOf(name);
  return {
    ...plainField(name, valueType),
    id: keyFor(
      name,
      before.map(({ id }) => id),
    ),
    key: name,
    label,
    widget: hidden ? 'hidden' : type === 'radio' ? 'buttons' : 'usual',
    required: !hidden && together.some((one) => hasAttribute(one, 'required')),
    options: optionsOf(control, type, together),
    placeholder: attribute(control, 'placeholder').slice(0, 120),
    preset: presetOf(control, type, together),
    keepAs: hidden || before.some(({ keepAs }) => keepAs === meaning) ? '' : meaning,
  };
}

function valueTypeOf(control: Element, type: string, together: Element[]): TypeName {
  if (type === 'select') return hasAttribute(control, 'multiple') ? 'several choices' : 'choice';
  if (type === 'radio') return 'choice';
  if (type === 'checkbox') return together.length > 1 ? 'several choices' : 'yes/no';
  if (type === 'textarea') return 'long text';
  return (Object.hasOwn(TYPES, type) ? TYPES[type] : undefined) ?? 'text';
}

function optionsOf(control: Element, type: string, together: Element[]): string[] {
  if (type === 'select') {
    const values = elementsIn(control, ({ tagName }) => tagName === 'option').map((one) =>
      hasAttribute(one, 'value') ? attribute(one, 'value') : textOf(one),
    );
    return [...new Set(values.filter((value) => value !== ''))];
  }
  if (type === 'file')
    return attribute(control, 'accept')
      .split(',')
      .map((one) => one.trim())
      .filter((one) => one.includes('/'));
  return type === 'radio' || (type === 'checkbox' && together.length > 1)
    ? [...new Set(together.map((one) => attribute(one, 'value') || 'on'))]
    : [];
}

function presetOf(control: Element, type: string, together: Element[]): string {
  // A box that gives consent is never ticked for anybody, whatever the page did.
  if (type === 'checkbox' && together.length === 1) return '';
  if (type === 'select') {
    const chosen = elementsIn(control, (one) => one.tagName === 'option' && hasAttribute(one, 'selected'))[0];
    return chosen ? (hasAttribute(chosen, 'value') ? attribute(chosen, 'value') : textOf(chosen)) : '';
  }
  if (type === 'radio' || type === 'checkbox')
    return together
      .filter((one) => hasAttribute(one, 'checked'))
      .map((one) => attribute(one, 'value'))
      .join('\n')
      .slice(0, 300);
  if (type === 'file') return '';
  return (type === 'textarea' ? textOf(control) : attribute(control, 'value')).slice(0, 300);
}

const typeOfControl = (control: Element): string =>
  control.tagName === 'input' ? (attribute(control, 'type') || 'text').toLowerCase() : control.tagName;

/** The label of a control: what the page says of it, in the order in which browsers go by it (ARIA, accessible name). */
function labelOf(page: Page, control: Element): string {
  const id = attribute(control, 'id');
  const by = attribute(control, 'aria-labelledby')
    .split(/\s+/)
    .filter((one) => one !== '');
  const told = by
    .map((one) => textOf(page.byId.get(one)))
    .join(' ')
    .trim();
  const around = ancestorOf(control, 'label');
  const given = [
    told,
    attribute(control, 'aria-label'),
    id === '' ? '' : textOf(page.labels.get(id)),
    around ? textOf(around, control) : '',
    attribute(control, 'title'),
    attribute(control, 'placeholder'),
  ];
  return (given.find((text) => text !== '') ?? '').replace(/\s*[*:]\s*$/, '');
}

function groupLabelOf(control: Element): string {
  const set = ancestorOf(control, 'fieldset');
  return set ? textOf(elementsIn(set, ({ tagName }) => tagName === 'legend')[0]).replace(/\s*[*:]\s*$/, '') : '';
}

const headingIn = (form: Element): string =>
  textOf(elementsIn(form, ({ tagName }) => /^h[1-6]$|^legend$/.test(tagName))[0]).slice(0, 200);

/** A name as words: "first_name" is "First name". */
const inWords = (name: string): string => {
  const words = name
    .replace(/\[|\]/g, ' ')
    .replace(/[_.-]+/g, ' ')
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .trim()
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
};
