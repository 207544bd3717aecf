import type { Suspicion } from '../../core/intake/index.ts';

/** Why something was taken for a robot's. */
export const SUSPICIONS: Record<Suspicion, string> = {
  'trap filled': 'it filled a field that people do not see',
  'too fast': 'it was sent faster than a person types',
};
