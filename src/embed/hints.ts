import { likelyAddress } from '../core/forms/mistyped.ts';

/** Nothing moves while somebody presses, nor in the moment in which a touch becomes a click. */
const AFTER_PRESS_MS = 350;

let isPressed = false;
let isWatching = false;

/** Watches presses on the whole page, once, however many forms stand on it. */
function watchPresses(): void {
  if (isWatching) return;
  isWatching = true;
  addEventListener('pointerdown', () => (isPressed = true), true);
  for (const name of ['pointerup', 'pointercancel']) addEventListener(name, () => (isPressed = false), true);
}

/**
 * Does something that moves what stands below, once nobody presses anything: an answer is ended by the very press on a button, which
 * would miss it. What is asked for later takes the place of what waits.
 */
function whenNobodyPresses(): (move: () => void) => void {
  watchPresses();
  let timer = 0;
  const later = (move: () => void) => {
    clearTimeout(timer);
    timer = window.setTimeout(() => (isPressed ? later(move) : move()), AFTER_PRESS_MS);
  };
  return later;
}

/** Asks whoever mistyped the domain of an address what they meant. It is taken by a click, and never stands in the way. */
export function hint(root: HTMLElement): void {
  const form = root.querySelector('form');
  const settled = whenNobodyPresses();
  form?.addEventListener('change', ({ target }) => {
    const input = target as HTMLInputElement;
    if (input.type === 'email') settled(() => ask(form, input));
  });
}

function ask(form: HTMLFormElement, input: HTMLInputElement): void {
  const question = input.closest('[data-question]');
  question?.querySelector('[data-hint]')?.remove();
  const meant = likelyAddress(input.value);
  const { meant: words } = form.dataset;
  if (!question || meant === null || !words) return;
  const asked = document.createElement('p');
  asked.className = 'help';
  asked.dataset.hint = '';
  asked.setAttribute('role', 'status');
  const [before = '', after = ''] = words.split('{address}');
  const take = document.createElement('button');
  Object.assign(take, { type: 'button', textContent: meant });
  take.dataset.go = 'meant';
  take.addEventListener('click', () => {
    input.value = meant;
    input.dispatchEvent(new Event('change', { bubbles: true }));
    input.focus();
  });
  asked.append(before, take, after);
  question.append(asked);
}
