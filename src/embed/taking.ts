import { TOOK_FIELD } from '../core/forms/inputs.ts';

/**
 * Says with a form how long it took to fill in: from the first that was entered.
 * @param earlier seconds that it took before, where it comes once more
 * @returns the seconds up to now
 */
export function clock(form: HTMLFormElement, earlier = 0): () => number {
  let began: number | null = null;
  const took = () => earlier + (began === null ? 0 : (performance.now() - began) / 1000);
  form.addEventListener('input', () => (began ??= performance.now()));
  form.addEventListener('submit', () => {
    if (took() > 0) fill(form, TOOK_FIELD, String(Math.ceil(took())));
  });
  return took;
}

/** Sets an input of a form that nobody sees, and makes it where there is none. */
export function fill(form: HTMLFormElement, name: string, value: string): void {
  let input = form.elements.namedItem(name);
  if (!(input instanceof HTMLInputElement)) {
    input = document.createElement('input');
    Object.assign(input, { type: 'hidden', name });
    form.append(input);
  }
  (input as HTMLInputElement).value = value;
}
