import type { OverwriteRule } from '../../core/mapping/index.ts';

/** What becomes of a field of somebody who is there already. */
export const RULE_WORDS: Record<OverwriteRule, string> = {
  latest: 'the new value wins',
  'fill gaps': 'only an empty field is filled',
  longest: 'the longer value stays',
  highest: 'the higher value stays',
  add: 'ours is added to what is there',
  'new people': 'theirs stays, even when it is empty',
};
