import { fieldsAskedFor, isOfKnown } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import type { Check } from '../../check.ts';
import { conditionedParts } from '../../conditioned.ts';

export const conditionUnknown: Check = {
  code: 'a condition asks for what is not there',
  level: 'blocker',
  why: 'What nobody can say is no yes: the part of the route that it decides about would go to nobody.',
  find: (checked) => {
    const known = [...factFields(checked.source.fields), ...checked.knowledge];
    return conditionedParts(checked.document).flatMap(({ when, what, ...where }) =>
      [...new Set(fieldsAskedFor(when))]
        .filter((field) => !known.some(({ id }) => id === field))
        .map((field) =>
          isOfKnown(field)
            ? {
                ...where,
                message: `${what} for some people only, by a purpose, list or tag that is not there any more.`,
                fix: 'Choose another one.',
              }
            : {
                ...where,
                message: `${what} for some people only, by "${field}", which the live source does not have.`,
                fix: 'Choose another field, or publish the source if it is new.',
              },
        ),
    );
  },
};
