/**
 * Why a submission is set aside: it filled the field that no person sees, was faster than a person types, or holds what the form
 * does not want.
 */
export const SUSPICIONS = [
  'trap filled',
  'too fast',
  'unwanted words',
  'too many links',
  'throw-away address',
] as const;
export type Suspicion = (typeof SUSPICIONS)[number];

/** What a form does not take without somebody having looked at it. */
export interface Guards {
  /** Words, or parts of texts; capitals and accents do not matter. */
  words: string[];
  /** More addresses of pages than that in all that was typed; null: any number. */
  mostLinks: number | null;
  /** Addresses that work for minutes. */
  throwAway: boolean;
}

export const NO_GUARDS: Guards = { words: [], mostLinks: null, throwAway: false };

export interface ScreeningRules {
  /** Seconds between seeing the form and sending it below which nobody has typed. 0 switches the check off. */
  minimumSeconds: number;
  guards: Guards;
}

/** What may tell a robot from a person. */
export interface Signs {
  /** What arrived in the input hidden from people. */
  trap: string;
  /** From showing to sending; null when the page could not tell (no script), which is no ground for suspicion. */
  elapsedSeconds: number | null;
  /** Everything that was typed. */
  texts: string[];
  /** Whether one of the addresses is of a domain whose mailboxes last for minutes. */
  isThrowAway: boolean;
}

const plain = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

const linksIn = (texts: string[]): number => (plain(texts.join('\n')).match(/https?:\/\/|www\./g) ?? []).length;

/** Whether a submission is set aside, and why; null for not. */
export function screen(
  { minimumSeconds, guards }: ScreeningRules,
  { trap, elapsedSeconds, texts, isThrowAway }: Signs,
): Suspicion | null {
  if (trap !== '') return 'trap filled';
  if (guards.words.length > 0) {
    const all = plain(texts.join('\n'));
    if (guards.words.some((word) => word.trim() !== '' && all.includes(plain(word.trim())))) return 'unwanted words';
  }
  if (guards.mostLinks !== null && linksIn(texts) > guards.mostLinks) return 'too many links';
  if (guards.throwAway && isThrowAway) return 'throw-away address';
  // Last: it can be disproved, which the others cannot.
  return elapsedSeconds !== null && elapsedSeconds < minimumSeconds ? 'too fast' : null;
}
