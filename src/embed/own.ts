import { VARIANT_FIELD } from '../core/forms/inputs.ts';
import { branch } from './branching.ts';
import { count } from './counting.ts';
import { hint } from './hints.ts';

/** What runs on a form's own page. Without it, all of the form stands there and the browser sends it. */
for (const form of document.querySelectorAll<HTMLFormElement>('form[action^="/in/"]')) {
  const id = form.getAttribute('action')?.split('/').at(-1) ?? '';
  const root = form.parentElement;
  if (root) {
    branch(root);
    hint(root);
  }
  const variant = form.elements.namedItem(VARIANT_FIELD);
  count('/place/seen', id, form, variant instanceof HTMLInputElement ? variant.value : '');
}
