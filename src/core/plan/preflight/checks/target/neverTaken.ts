import { decide, fieldsAskedFor } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import { targetCheck } from '../../check.ts';

const ENOUGH = 20;

export const neverTaken = targetCheck({
  code: 'no submission ever went there',
  level: 'warning',
  why: 'A condition that nobody meets is most often one that compares with the wrong word.',
  find: ({ target: { when }, source, samples, now }) => {
    if (when === null || samples.length < ENOUGH) return [];
    // Neither how they came nor what is known of them is in the samples: what asks for it is not judged.
    if (fieldsAskedFor(when).some((id) => id.startsWith('@'))) return [];
    const fields = factFields(source.fields);
    return samples.some((values) => decide(when, { values, now }, fields).verdict === 'holds')
      ? []
      : [
          {
            part: 'target',
            message: 'Nothing that came of late would go there.',
            fix: 'Look at its condition with some of them as the sample.',
          },
        ];
  },
});
