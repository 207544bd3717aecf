import { testsFor, testsIn, TESTS } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import type { Check } from '../../check.ts';
import { conditionedParts } from '../../conditioned.ts';

export const conditionUnfit: Check = {
  code: 'a test does not suit its field',
  level: 'warning',
  why: 'Values of that type cannot be compared so, and what cannot be said is no yes.',
  find: ({ document, source }) => {
    const fields = factFields(source.fields);
    return conditionedParts(document).flatMap(({ when, what: _, ...where }) =>
      testsIn(when).flatMap(({ field: id, test }) => {
        const field = fields.find((one) => one.id === id);
        return !field || testsFor(field.type).includes(test)
          ? []
          : [
              {
                ...where,
                message: `${field.label} is of the type ${field.type}, which is never asked whether it "${TESTS[test].words}".`,
                fix: 'Choose another test.',
              },
            ];
      }),
    );
  },
};
