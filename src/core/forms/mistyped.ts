/** Endings that nobody has, and what stands beside them on the keyboard: common slips, no published list. */
const ENDINGS: Record<string, string> = {
  con: 'com',
  cim: 'com',
  cmo: 'com',
  ocm: 'com',
  vom: 'com',
  xom: 'com',
  comm: 'com',
  coom: 'com',
  ogr: 'org',
  orgg: 'org',
  nte: 'net',
  ent: 'net',
  nett: 'net',
};

/**
 * What somebody most likely meant to write who mistyped the domain of an address; null where nothing looks mistyped. A hint only:
 * an odd address may be the right one.
 */
export function likelyAddress(text: string): string | null {
  const [local = '', domain = '', ...more] = text.trim().split('@');
  if (local === '' || domain === '' || more.length > 0) return null;
  const mended = domain
    .replace(/[,;]/g, '.')
    .replace(/\s+/g, '')
    .replace(/\.{2,}/g, '.')
    .replace(/^\.|\.$/g, '')
    .replace(/\.([a-z]+)$/i, (whole, ending: string) => {
      const meant = ENDINGS[ending.toLowerCase()];
      return meant === undefined ? whole : `.${meant}`;
    });
  return mended === domain || !mended.includes('.') ? null : `${local}@${mended}`;
}
