import { isEmpty } from '../../../../values/index.ts';
import { lineCheck } from '../../check.ts';

/** Fewer submissions say nothing of what visitors leave empty. */
const ENOUGH = 20;

export const neverFilled = lineCheck({
  code: 'a field is never filled in',
  level: 'warning',
  why: 'Nobody notices a count that stays at zero: the field may have another name on the page by now.',
  find: ({ field, from, line, samples }) => {
    if (!from || line.from.kind !== 'field' || samples.length < ENOUGH) return [];
    if (samples.some((values) => !isEmpty(values[from.id]))) return [];
    return [
      {
        message: `${field.label} comes from ${from.label}, which nothing that came of late has filled in.`,
        fix: 'See whether the page still sends it, or map another field.',
      },
    ];
  },
});
