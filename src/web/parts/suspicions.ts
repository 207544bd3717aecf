import type { Suspicion } from '../../core/intake/index.ts';

/** Why something was set aside. */
export const SUSPICIONS: Record<Suspicion, string> = {
  'trap filled': 'it filled a field that people do not see',
  'too fast': 'it was sent faster than a person types',
  'unwanted words': 'it has words that the form does not take',
  'too many links': 'it has more links than the form takes',
  'throw-away address': 'its email address is disposable',
};
