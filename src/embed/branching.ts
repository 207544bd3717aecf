import { holdsForTexts } from '../core/conditions/onTexts.ts';
import type { Condition } from '../core/conditions/index.ts';
import { AT_FIELD, LATER_FIELD } from '../core/forms/inputs.ts';
import { FIRST_PAGE, pathOf, type Path, type PathPage } from '../core/forms/pages.ts';

/** By this event a question asks for the page on which it stands. */
const GO = 'iwashi:go';
const ITEMS = '[data-question], [data-block]';
type Input = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement;
const inputsIn = (element: Element): Input[] => [...element.querySelectorAll<Input>('input, select, textarea')];
const all = (root: ParentNode, selector: string) => [...root.querySelectorAll<HTMLElement>(selector)];
const idOf = ({ dataset }: HTMLElement): string => dataset.question ?? dataset.block ?? '';
const read = (json: string | undefined): unknown => (json === undefined ? null : JSON.parse(json));

/**
 * Lets a form be gone through page by page, and shows what belongs to the answers. What it shows is what the server will ask for;
 * both go by core/forms/pages.ts. Used on pages of others, on our own, and by the builder, in whose frame nothing runs.
 * @param root what the form stands in
 */
export function branch(root: HTMLElement): void {
  leadToQuestions(root);
  const form = root.querySelector('form');
  if (!form || !form.querySelector('[data-page], [data-if]')) return;
  const sections = all(form, '.fields');
  const pages = sections.map(pageOf);
  const [back, on] = ['back', 'on'].map((name) => form.querySelector<HTMLButtonElement>(`[data-go=${name}]`));
  const submit = form.querySelector<HTMLButtonElement>('[type=submit]:not([name])');
  const progress = form.querySelector<HTMLElement>('.progress');
  const statement = form.querySelector<HTMLElement>('.statement');
  let at = FIRST_PAGE;

  const walk = (): Path =>
    pathOf(pages, (when, asked) => holdsForTexts(when, (field) => textsIn(form, field, asked), Date.now()) === true);

  /** Shows the present page, as it is by what is answered now. */
  const show = () => {
    const path = walk();
    if (!path.pages.includes(at)) at = path.pages[0] ?? FIRST_PAGE;
    const number = path.pages.indexOf(at);
    const isLast = number === path.pages.length - 1;
    for (const [index, section] of sections.entries()) {
      section.hidden = pages[index]?.id !== at;
      for (const item of itemsIn(section)) item.hidden = !path.shown.has(idOf(item));
    }
    if (back) back.hidden = number <= 0;
    if (on) on.hidden = isLast;
    if (submit) submit.hidden = !isLast;
    if (statement) statement.hidden = !isLast;
    if (progress) {
      progress.hidden = path.pages.length < 2;
      const [bar, words] = progress.children;
      bar?.setAttribute('max', String(path.pages.length));
      bar?.setAttribute('value', String(number + 1));
      const said = (progress.dataset.words ?? '')
        .replace('{page}', String(number + 1))
        .replace('{pages}', String(path.pages.length));
      if (words && words.textContent !== said) words.textContent = said;
    }
  };
  const here = () => sections[pages.findIndex(({ id }) => id === at)];
  const go = (by: 1 | -1) => {
    const section = here();
    if (by === 1 && section && !check(section)) return;
    const { pages: way } = walk();
    at = way[way.indexOf(at) + by] ?? at;
    show();
    const to = here();
    (to?.querySelector<HTMLElement>(':scope > h3') ?? (to && inputsIn(to)[0]))?.focus();
  };
  const goTo = (element: Element) => {
    at = element.closest<HTMLElement>('[data-page]')?.dataset.page ?? at;
    show();
  };

  back?.addEventListener('click', () => go(-1));
  on?.addEventListener('click', () => go(1));
  form.addEventListener(GO, ({ target }) => goTo(target as Element));
  // Before whatever else sends it: on any page but the last, Enter goes on.
  form.addEventListener(
    'submit',
    (event) => {
      if (event.submitter?.getAttribute('name') === LATER_FIELD) {
        keepPlace(form, at);
        return;
      }
      if (walk().pages.at(-1) === at) {
        const section = here();
        if (pages.length < 2 || !section || check(section)) return;
      } else go(1);
      event.preventDefault();
      event.stopImmediatePropagation();
    },
    true,
  );
  const changed = ({ target }: Event) => {
    clear(target as Element);
    show();
  };
  form.addEventListener('input', changed);
  form.addEventListener('change', changed);
  form.addEventListener('reset', () => setTimeout(show));
  const wrong = form.querySelector('.wrong');
  if (wrong) goTo(wrong);
  else {
    at = form.dataset.at ?? at;
    show();
  }
}

/** Links to questions lead to them also where the page's address does not, and where they stand on another page of the form. */
function leadToQuestions(root: HTMLElement): void {
  root.querySelector('.summary')?.addEventListener('click', (event) => {
    const id = (event.target as Element).closest('a')?.getAttribute('href')?.slice(1);
    const question = id && root.querySelector(`#${CSS.escape(id)}`);
    if (!question) return;
    event.preventDefault();
    question.dispatchEvent(new Event(GO, { bubbles: true }));
    (inputsIn(question)[0] ?? (question as HTMLElement)).focus();
  });
}

function pageOf(section: HTMLElement): PathPage {
  const { page = FIRST_PAGE, if: when, skips } = section.dataset;
  return {
    id: page,
    shownIf: read(when) as Condition | null,
    items: itemsIn(section).map((item) => ({ id: idOf(item), shownIf: read(item.dataset.if) as Condition | null })),
    skips: (read(skips) ?? []) as PathPage['skips'],
  };
}

/** What stands on a page, without its title. */
const itemsIn = (section: HTMLElement): HTMLElement[] =>
  all(section, ITEMS).filter((item) => idOf(item) !== section.dataset.page);

/** What stands in a field: its answers, without empty ones; none where it was not asked. */
function textsIn(form: HTMLElement, field: string, asked: Set<string>): string[] {
  const named = (name: string) => form.querySelector<HTMLElement>(`[data-${name}="${CSS.escape(field)}"]`);
  const question = named('question');
  if (!question) return [(named('field') as HTMLInputElement | null)?.value ?? ''].filter(Boolean);
  if (!asked.has(field)) return [];
  const inputs = inputsIn(question);
  const chosen = inputs.filter(
    (input): input is HTMLInputElement => input.type === 'checkbox' || input.type === 'radio',
  );
  if (chosen.length > 0) {
    const values = chosen.filter(({ checked }) => checked).map(({ value }) => value);
    // A box by itself says no where it is not ticked.
    return values.length === 0 && question.tagName !== 'FIELDSET' ? ['no'] : values;
  }
  const written = inputs.map((input) =>
    input.type === 'file' ? ((input as HTMLInputElement).files?.[0]?.name ?? '') : input.value.trim(),
  );
  return [written.filter(Boolean).join(' ')].filter(Boolean);
}

/** Says what is missing on a page, as the server would. @returns whether nothing is */
function check(section: HTMLElement): boolean {
  const questions = all(section, '[data-question]').filter(({ hidden }) => !hidden);
  const wrong = questions.filter((question) => {
    clear(question);
    const message = issueOf(question);
    if (message !== '') complain(question, message);
    return message !== '';
  });
  const first = wrong[0] && inputsIn(wrong[0])[0];
  first?.focus();
  return wrong.length === 0;
}

/** What keeps a question from being left: nothing in it that is needed, or something that cannot be; '' for nothing. */
function issueOf(question: HTMLElement): string {
  const { needed = '', unfit = '' } = question.dataset;
  const inputs = inputsIn(question);
  const isSet = inputs.some(({ type }) => type === 'checkbox' || type === 'radio');
  const isEmpty = isSet
    ? !inputs.some((input) => (input as HTMLInputElement).checked)
    : inputs.every(({ value }) => value.trim() === '');
  if (isEmpty) return needed;
  return inputs.some(({ validity }) => !validity.valid && !validity.valueMissing) ? unfit : '';
}

/** What is wrong with a question stands below it, until it is changed. */
function complain(question: HTMLElement, message: string): void {
  const id = `${inputsIn(question)[0]?.name ?? ''}-now-wrong`;
  const said = question.ownerDocument.createElement('p');
  Object.assign(said, { id, className: 'wrong', textContent: message });
  said.dataset.now = '';
  question.append(said);
  for (const input of inputsIn(question)) {
    input.setAttribute('aria-invalid', 'true');
    const described = input.getAttribute('aria-describedby');
    input.dataset.described = described ?? '';
    input.setAttribute('aria-describedby', [id, described].filter(Boolean).join(' '));
  }
}

function clear(inside: Element): void {
  const question = inside.closest('[data-question]');
  const said = question?.querySelector('[data-now]');
  if (!question || !said) return;
  said.remove();
  for (const input of inputsIn(question)) {
    input.removeAttribute('aria-invalid');
    const { described = '' } = input.dataset;
    if (described === '') input.removeAttribute('aria-describedby');
    else input.setAttribute('aria-describedby', described);
  }
}

/** Notes on which page somebody leaves. */
function keepPlace(form: HTMLFormElement, at: string): void {
  const input = form.ownerDocument.createElement('input');
  Object.assign(input, { type: 'hidden', name: AT_FIELD, value: at });
  form.append(input);
}
