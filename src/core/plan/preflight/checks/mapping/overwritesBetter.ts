import { lineCheck } from '../../check.ts';

/** What people keep better somewhere else than in a form filled in a hurry. */
const NAMES = new Set(['first_name', 'last_name', 'full_name', 'phone']);

export const overwritesBetter = lineCheck({
  code: 'what is there may be better',
  level: 'hint',
  why: 'A colleague may have corrected it there; the next form, typed in a hurry, puts the old spelling back.',
  find: ({ field, from, line, targetOf, source }) =>
    from &&
    NAMES.has(from.keepAs) &&
    targetOf.duplicates === 'update' &&
    line.overwrite === null &&
    source.trust === 'less'
      ? [
          {
            message: `${field.label} is overwritten by what a source says that is trusted less.`,
            fix: 'Choose "fill gaps" for the line, or for the target.',
          },
        ]
      : [],
});
