import type { WhenWords } from '../../../parts/conditions/WhenPart.tsx';

/** Who something is for. */
export const FOR_THOSE: WhenWords = {
  label: 'For those',
  always: 'choose who',
  all: 'of whom all of this is true',
  any: 'of whom any of this is true',
  none: 'of whom none of this is true',
};

/** When something is so. @param label what is */
export const whenIs = (label: string): WhenWords => ({
  label,
  always: 'always',
  all: 'if all of this is true',
  any: 'if any of this is true',
  none: 'if none of this is true',
});
