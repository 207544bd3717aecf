import { fitsWording, type Purpose } from '../consent/index.ts';
import { asVariant, type MadeDocument } from '../intake/index.ts';
import { wordingOf } from './asking.ts';
import type { RouteDocument } from './route.ts';

/** Words by which a source has people agree to something, of which nobody here has said that they are for that. */
export interface NewWords {
  /** Id of the purpose, and what it is called. */
  purpose: string;
  name: string;
  wording: string;
  /** The live routes that take them as consent. */
  routes: string[];
}

/** A source as each of its variants shows it. */
const facesOf = (document: MadeDocument): MadeDocument[] => [
  document,
  ...('variants' in document ? document.variants.map(({ id }) => asVariant(document, id)) : []),
];

/**
 * What a source has people agree to by other words than those that somebody decided on, for the routes that are live: published so,
 * consent would be written down to something that the words may not speak of.
 */
export function newWords(
  source: MadeDocument,
  routes: { name: string; document: RouteDocument }[],
  purposes: Pick<Purpose, 'id' | 'name' | 'wordings'>[],
): NewWords[] {
  const found = new Map<string, NewWords>();
  // What shops and files tell of was agreed to elsewhere, in words that come with it.
  if (source.kind === 'shop' || source.kind === 'file' || source.kind === 'registration') return [];
  for (const { name, document } of routes)
    for (const ask of document.consent.asks) {
      const purpose = purposes.find(({ id }) => id === ask.purpose);
      if (!purpose) continue;
      for (const face of facesOf(source)) {
        const wording = wordingOf(ask, face).trim();
        if (wording === '' || fitsWording(purpose, wording)) continue;
        const key = JSON.stringify([purpose.id, wording]);
        const before = found.get(key) ?? { purpose: purpose.id, name: purpose.name, wording, routes: [] };
        found.set(key, { ...before, routes: [...new Set([...before.routes, name])] });
      }
    }
  return [...found.values()];
}
