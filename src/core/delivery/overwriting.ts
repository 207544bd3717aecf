import type { OverwriteRule, SentValue } from '../mapping/index.ts';
import type { Intent } from '../plan/index.ts';
import { inWordsBySight } from '../values/index.ts';

/** By which rule a field of somebody who is there already is written. */
export function ruleFor({ rules, duplicates }: Pick<Intent, 'rules' | 'duplicates'>, key: string): OverwriteRule {
  return rules[key] ?? (duplicates === 'fill gaps' ? 'fill gaps' : 'latest');
}

/** Whether it depends on what is there what is sent, so that somebody has to look first. */
export const looksFirst = ({ rules, duplicates }: Pick<Intent, 'rules' | 'duplicates'>): boolean =>
  duplicates === 'fill gaps' || duplicates === 'leave alone' || Object.values(rules).some((rule) => rule !== 'latest');

/**
 * What goes into a field of somebody who is there already.
 * @param held what is in it now; null or undefined for nothing
 * @returns undefined where what is there stays
 */
export function overwriting(
  rule: OverwriteRule,
  meant: SentValue | null,
  held: SentValue | null | undefined,
): SentValue | null | undefined {
  if (rule === 'latest') return meant;
  if (rule === 'new people') return undefined;
  if (isNothing(held)) return meant;
  // Nothing is neither longer nor higher than something, and adds nothing to it.
  if (meant === null || rule === 'fill gaps') return undefined;
  if (rule === 'add') return together(held, meant);
  const isMore = rule === 'longest' ? asText(meant).length > asText(held).length : isHigher(meant, held);
  return isMore ? meant : undefined;
}

/** Whether a field there is empty, however the other system writes that. */
export const isNothing = (held: SentValue | null | undefined): held is null | undefined | '' =>
  held === undefined || held === null || held === '' || (Array.isArray(held) && held.length === 0);

/** A value there as people read it; '' for none. Services hold things of other shapes, too, than we send. */
export const asText = (value: SentValue | null): string =>
  typeof value === 'object' && !Array.isArray(value) ? inWordsBySight(value) : String(value);

/** By number; otherwise as texts stand, which is right for dates and times of one form (ISO 8601). */
function isHigher(meant: SentValue, held: SentValue): boolean {
  const [one, other] = [Number(meant), Number(held)];
  if (!Number.isNaN(one) && !Number.isNaN(other)) return one > other;
  return asText(meant) > asText(held);
}

/** What is in either, each once: a list as a list, a text as one with commas. */
function together(held: SentValue, meant: SentValue): SentValue | undefined {
  const [before, ours] = [partsOf(held), partsOf(meant)];
  const added = ours.filter((part) => !before.includes(part));
  if (added.length === 0) return undefined;
  const all = [...before, ...added];
  return Array.isArray(held) || Array.isArray(meant) ? all : all.join(', ');
}

/** The parts of a list, or of a text that has commas in it. */
export const partsOf = (value: SentValue): string[] =>
  (Array.isArray(value) ? value : String(value).split(',')).map((part) => part.trim()).filter((part) => part !== '');
