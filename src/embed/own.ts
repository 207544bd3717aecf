import { TOOK_FIELD, VARIANT_FIELD } from '../core/forms/inputs.ts';
import { branch } from './branching.ts';
import { count, telling } from './counting.ts';
import { hint } from './hints.ts';
import { clock } from './taking.ts';

/** What runs on a form's own page. Without it, all of the form stands there and the browser sends it. */
for (const form of document.querySelectorAll<HTMLFormElement>('form[action^="/in/"]')) {
  const id = form.getAttribute('action')?.split('/').at(-1) ?? '';
  const root = form.parentElement;
  if (root) {
    branch(root);
    hint(root);
  }
  const held = (name: string) => {
    const input = form.elements.namedItem(name);
    return input instanceof HTMLInputElement ? input.value : '';
  };
  clock(form, Number(held(TOOK_FIELD)));
  const tell = telling({ to: '/place/seen', id, variant: held(VARIANT_FIELD) });
  // Whoever is here came to see it.
  tell('opened');
  count(form, tell);
}
