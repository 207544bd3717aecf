import { SHOWING_FIELD, TOOK_FIELD, VARIANT_FIELD } from '../core/forms/inputs.ts';
import { branch } from './branching.ts';
import { count, telling } from './counting.ts';
import { hint } from './hints.ts';
import { newName } from './names.ts';
import { clock, fill } from './taking.ts';

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
  // Shown again with what is wrong, it is the same showing.
  const showing = held(SHOWING_FIELD) || newName();
  fill(form, SHOWING_FIELD, showing);
  const tell = telling({ to: '/place/seen', id, variant: held(VARIANT_FIELD), showing });
  // Whoever is here came to see it.
  tell('opened');
  count(form, tell);
}
