/** The languages that our own words on public pages are in, by their tags (BCP 47). */
export const FORM_LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt', 'sv'] as const;
export type FormLanguage = (typeof FORM_LANGUAGES)[number];

/**
 * The language of ours that a browser would rather have (RFC 9110, 12.5.4: by weight, then by order).
 * @param header Accept-Language
 */
export function languageFor(header: string): FormLanguage {
  const wanted = header
    .split(',')
    .map((part, at) => {
      const [tag = '', ...parameters] = part.trim().split(';');
      const weight = parameters.map((one) => /^\s*q=([\d.]+)\s*$/.exec(one)?.[1]).find((one) => one !== undefined);
      return { tag: tag.trim().toLowerCase(), weight: weight === undefined ? 1 : Number(weight), at };
    })
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight || a.at - b.at);
  for (const { tag } of wanted) {
    const found = FORM_LANGUAGES.find((language) => tag === language || tag.startsWith(`${language}-`));
    if (found) return found;
  }
  return 'en';
}
