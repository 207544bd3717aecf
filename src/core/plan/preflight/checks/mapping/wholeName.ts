import { namePartOf } from '../../../../mapping/index.ts';
import { hasStep, lineCheck } from '../../check.ts';

export const wholeName = lineCheck({
  code: 'a whole name goes into one part of it',
  level: 'warning',
  why: 'Mails greet people by their full name, or by their family name twice.',
  find: (checked) => {
    const { field, from } = checked;
    const asked = namePartOf(field.label);
    return from?.keepAs === 'full_name' && asked !== null && !hasStep(checked, 'part of a name')
      ? [
          {
            message: `${field.label} gets the whole of ${from.label}.`,
            fix: 'Add the step that takes the part.',
            mend: {
              kind: 'part of a name' as const,
              options: { part: asked === 'last name' ? 'last name' : 'first and middle names' },
            },
          },
        ]
      : [];
  },
});
