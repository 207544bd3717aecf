import { asksOf, testsIn } from '../../../../conditions/index.ts';
import type { Check } from '../../check.ts';
import { conditionedParts } from '../../conditioned.ts';

export const conditionIncomplete: Check = {
  code: 'a condition is compared with nothing',
  level: 'blocker',
  why: 'It can never be decided, so that nobody would go there.',
  find: ({ document }) =>
    conditionedParts(document).flatMap(({ when, what: _, ...where }) =>
      testsIn(when).some(({ test, value }) => asksOf(test) !== 'nothing' && value.trim() === '')
        ? [{ ...where, message: 'A condition is compared with nothing.', fix: 'Enter what it is compared with.' }]
        : [],
    ),
};
