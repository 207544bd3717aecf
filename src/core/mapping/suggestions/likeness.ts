import { distance } from 'fastest-levenshtein';
import type { Part, Reading } from './meaning.ts';

/** How alike two fields are by their names, from 0 to 1, and by what. */
export interface Likeness {
  score: number;
  /** The meanings that both have; words that both have as they are stand with a `=`. */
  shared: string[];
}

const NOTHING: Likeness = { score: 0, shared: [] };

/** What one name of two fields counts, beside their labels. */
const CROSSED = 0.95;
const BY_KEY = 0.97;

/** How alike two fields are, by the names of each that are the most alike. */
export function likeness(here: Reading[], there: Reading[]): Likeness {
  let best = NOTHING;
  for (const a of here)
    for (const b of there) {
      const like = likenessOf(a.parts, b.parts);
      const score = like.score * (a.by === b.by ? (a.by === 'key' ? BY_KEY : 1) : a.by === 'contact' ? 1 : CROSSED);
      if (score > best.score) best = { ...like, score };
    }
  return best;
}

/** Of somebody else than who fills in the form: never the same as one's own. */
const APART = 'somebody else';
const FOR_ANOTHER = 0.3;
/** A sense that is one of several counts less, since nothing says that it is meant: too little to be filled in by itself. */
const AMBIGUOUS = 0.7;

/** The share of what both are about in what either is about (Dice's coefficient, weighed). */
function likenessOf(here: Part[], there: Part[]): Likeness {
  const open = [...there];
  const shared: string[] = [];
  let common = 0;
  for (const part of here) {
    const [at, like, sense] = closest(part, open);
    if (like === 0) continue;
    const [other] = open.splice(at, 1);
    common += Math.min(part.weight, other?.weight ?? 0) * like;
    shared.push(sense);
  }
  const whole = weightOf(here) + weightOf(there);
  if (common === 0 || whole === 0) return NOTHING;
  const isApart = speaksOf(here, APART) !== speaksOf(there, APART);
  return { score: ((2 * common) / whole) * (isApart ? FOR_ANOTHER : 1), shared };
}

function closest(part: Part, among: Part[]): [at: number, like: number, sense: string] {
  let found: [number, number, string] = [-1, 0, ''];
  among.forEach((other, at) => {
    for (const sense of part.senses) {
      const like = Math.max(...other.senses.map((one) => alike(sense, one)));
      const certain = like * (isAmbiguous(part) || isAmbiguous(other) ? AMBIGUOUS : 1);
      if (certain > found[1]) found = [at, certain, sense];
    }
  });
  return found;
}

const isAmbiguous = ({ senses }: Part): boolean => senses.length > 1 && !senses.includes(APART);

const SHORTEST_MISSPELT = 5;
const MISSPELT = 0.8;
/** Meanings that are nearly one: a mobile number is a telephone number. */
const NEAR: Record<string, number> = {
  'first name full name': 0.6,
  'mobile phone': 0.75,
  'address street': 0.8,
  'appointment date': 0.6,
  'company school': 0.85,
};

function alike(a: string, b: string): number {
  // One's friend and one's teacher are both somebody else, and two people.
  if (a === b) return a === APART ? 0 : 1;
  const near = NEAR[a < b ? `${a} ${b}` : `${b} ${a}`];
  if (near !== undefined) return near;
  if (!a.startsWith('=') || !b.startsWith('=')) return 0;
  const longest = Math.max(a.length, b.length) - 1;
  if (longest < SHORTEST_MISSPELT) return 0;
  const like = 1 - distance(a, b) / longest;
  return like >= MISSPELT ? like : 0;
}

const weightOf = (parts: Part[]): number => parts.reduce((sum, { weight }) => sum + weight, 0);
const speaksOf = (parts: Part[], sense: string): boolean => parts.some(({ senses }) => senses.includes(sense));
