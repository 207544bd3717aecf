import { fitValue, lineValue } from '../../../../mapping/index.ts';
import { isEmpty } from '../../../../values/index.ts';
import { lineCheck } from '../../check.ts';
import { canNeverFit } from './neverFits.ts';

export const samplesLeftOut = lineCheck({
  code: 'values that came are left out',
  level: 'warning',
  why: 'A value that is not taken there is left out, or its delivery is held where the field is required.',
  find: (checked) => {
    const { line, field, from, samples, now } = checked;
    if (!from || canNeverFit(checked)) return [];
    const tried = samples.flatMap((values) => {
      const value = values[from.id];
      if (value === undefined || isEmpty(value)) return [];
      const given = lineValue(line, { values, now });
      if (!given.ok) return [given.issue];
      if (given.value === undefined || isEmpty(given.value)) return [null];
      const fits = fitValue(field, given.value);
      return [fits.ok ? null : `It ${fits.issue}`];
    });
    const [first, ...others] = tried.filter((issue) => issue !== null);
    if (first === undefined) return [];
    return [
      {
        message: `${field.label}: of ${tried.length} values of ${from.label} that came, ${others.length + 1} would be ${field.required ? 'held' : 'left out'}. One of them: ${first}`,
        fix: 'Add a step that turns them into what is taken there, or choose another field.',
      },
    ];
  },
});
