import { likelyAddress } from '../core/forms/mistyped.ts';

/** Asks whoever mistyped the domain of an address what they meant. It is taken by a click, and never stands in the way. */
export function hint(root: HTMLElement): void {
  const form = root.querySelector('form');
  form?.addEventListener('change', ({ target }) => {
    const input = target as HTMLInputElement;
    if (input.type !== 'email') return;
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
  });
}
