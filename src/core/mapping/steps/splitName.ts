import { oneLine } from '../../values/index.ts';
import { said } from './step.ts';

/** A person's name as it was written in one text, in its parts; what is not in it is ''. */
export interface NameParts {
  title: string;
  given: string;
  middle: string;
  family: string;
  suffix: string;
}

const words = (text: string) => new Set(text.split(' '));

/** What stands before a name, in the languages of Western Europe, without full stops. Common practice; no published list. */
const TITLES = words(
  'mr mrs ms miss mx master mister madam dr prof professor rev reverend fr father sir dame lady lord hon judge capt captain herr frau hr fr dipl-ing mag m mme mlle madame monsieur sra srta señor señora dott dottssa sig sigra ing dhr mevr mw pan pani tuan',
);

/** What stands behind a name, without full stops; those that could be a name as well count in capitals only. */
const SUFFIXES = words('jr sr ii iii iv senior junior phd md dds dmd esq esquire mba msc bsc obe mbe cbe qc kc rph');
const CAPITAL_SUFFIXES = words('I V MA BA RN PE CPA DO JD');

/** Small words with which a family name begins. */
const PARTICLES = words(
  "de del della der den dem di da do dos das du des van von vom zu zur zum la le lo ter ten te op bin ibn al el ben af av y e d' st vere vanden",
);
/** Between two family names. */
const AND = words('y e i');

/** Where the family name is written first, and where people have two (CLDR's data on person names says so of the first). */
const FAMILY_FIRST = words('hu ja zh ko vi km mn');
const TWO_FAMILY_NAMES = words('es pt gl ca eu');

const bare = (word: string): string => (word.includes('.') ? word.replaceAll('.', '') : word);
const plain = (word: string): string => bare(word).toLowerCase();
const isTitle = (word: string): boolean => TITLES.has(plain(word));
const isSuffix = (word: string): boolean => SUFFIXES.has(plain(word)) || CAPITAL_SUFFIXES.has(bare(word));

/**
 * Splits a name that is written in one text.
 * @param language whose order counts (BCP 47); '' for given name first
 */
export function splitName(written: string, language = ''): NameParts {
  if (split?.written !== written || split.language !== language)
    split = { written, language, parts: partsOf(written, language) };
  return split.parts;
}

/** The last name that was split: one line takes the first names of it, and the next one the last name. */
let split: { written: string; language: string; parts: NameParts } | null = null;

function partsOf(written: string, language: string): NameParts {
  const line = oneLine(written);
  // Most names are two words, and nothing else is to be looked for in them.
  const blank = line.indexOf(' ');
  if (language === '' && blank > 0 && line.indexOf(' ', blank + 1) < 0 && !line.includes(',')) {
    const [given, family] = [line.slice(0, blank), line.slice(blank + 1)];
    if (!isTitle(given) && !isSuffix(family)) return { title: '', given, middle: '', family, suffix: '' };
  }
  const tongue = language.split('-')[0] ?? '';
  const [before = '', ...others] = line.split(',').map((part) => part.trim());
  // "Quill, Mara, PhD" and "Mara Quill, PhD": what follows a comma is a suffix, or else the given names.
  const behind = others.filter((part) => part !== '');
  const suffixes = behind.filter((part) => part.split(' ').every(isSuffix));
  const given = behind.filter((part) => !suffixes.includes(part));
  const all = wordsOf(before);
  const title = leading(all, isTitle);
  const rest = all.slice(title.length);
  const own = trailing(rest, isSuffix);
  const core = rest.slice(0, rest.length - own.length);
  const parts = given.length > 0 ? withFamilyFirst(core, given.join(' ')) : inOrder(core, { tongue, title });
  return {
    ...parts,
    title: said(...title, parts.title),
    suffix: said(...own, parts.suffix, ...suffixes),
  };
}

const wordsOf = (text: string): string[] => text.split(' ').filter((word) => word !== '');

function leading(all: string[], is: (word: string) => boolean): string[] {
  const end = all.findIndex((word) => !is(word));
  // Somebody has a name, whatever it looks like.
  return all.slice(0, end < 0 ? 0 : end);
}

function trailing(all: string[], is: (word: string) => boolean): string[] {
  const start = all.findLastIndex((word) => !is(word)) + 1;
  return start === 0 ? [] : all.slice(start);
}

/** "Quill, Dr Mara Anne Jr": the given names follow a comma. */
function withFamilyFirst(family: string[], behind: string): NameParts {
  const all = wordsOf(behind);
  const title = leading(all, isTitle);
  const suffix = trailing(all.slice(title.length), isSuffix);
  const [given = '', ...middle] = all.slice(title.length, all.length - suffix.length);
  return {
    title: title.join(' '),
    given,
    middle: middle.join(' '),
    family: family.join(' '),
    suffix: suffix.join(' '),
  };
}

function inOrder(core: string[], { tongue, title }: { tongue: string; title: string[] }): NameParts {
  const none = { title: '', given: '', middle: '', family: '', suffix: '' };
  const [first = '', ...others] = core;
  // "Ms Quill" says a family name, "Mara" a given one.
  if (others.length === 0) return title.length > 0 ? { ...none, family: first } : { ...none, given: first };
  if (FAMILY_FIRST.has(tongue)) {
    // Vietnamese names end in the one by which people are called.
    const given = tongue === 'vi' ? (others.at(-1) ?? '') : (others[0] ?? '');
    const middle = tongue === 'vi' ? others.slice(0, -1) : others.slice(1);
    return { ...none, family: first, given, middle: middle.join(' ') };
  }
  const start = familyStart(core, TWO_FAMILY_NAMES.has(tongue));
  return { ...none, given: first, middle: core.slice(1, start).join(' '), family: core.slice(start).join(' ') };
}

/** With which word the family name begins: the last, or the last two, and the small words before it. Never the first. */
function familyStart(core: string[], hasTwo: boolean): number {
  let start = beforeParticles(core, core.length - 1);
  const joins = start > 2 && AND.has(plain(core[start - 1] ?? '')) && core.length - start === 1;
  if (joins || AND.has(plain(core[start] ?? ''))) return beforeParticles(core, Math.max(1, start - 1));
  if (hasTwo && start > 1) start = beforeParticles(core, start - 1);
  return Math.max(1, start);
}

function beforeParticles(core: string[], from: number): number {
  let start = from;
  while (start > 1 && PARTICLES.has(plain(core[start - 1] ?? ''))) start -= 1;
  return start;
}
