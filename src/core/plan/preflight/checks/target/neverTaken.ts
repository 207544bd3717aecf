import { decide } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import { fieldsAskedFor, isOfKnown } from '../../../../conditions/index.ts';
import { targetCheck } from '../../check.ts';

const ENOUGH = 20;

export const neverTaken = targetCheck({
  code: 'no submission ever went there',
  level: 'warning',
  why: 'A condition that nobody meets is most often one that compares with the wrong word.',
  find: ({ target: { when }, source, samples, now }) => {
    if (when === null || samples.length < ENOUGH || fieldsAskedFor(when).some(isOfKnown)) return [];
    const fields = factFields(source.fields);
    // How they came is not in the samples: what asks for it is not judged.
    if (fieldsAskedFor(when).some((id) => id.startsWith('@'))) return [];
    return samples.some((values) => decide(when, { values, now }, fields).verdict === 'holds')
      ? []
      : [
          {
            part: 'target',
            message: `None of the last ${samples.length} submissions would go there.`,
            fix: 'Look at its condition with some of them as the sample.',
          },
        ];
  },
});
