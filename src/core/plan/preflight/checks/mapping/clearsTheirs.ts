import { lineCheck } from '../../check.ts';

export const clearsTheirs = lineCheck({
  code: 'an empty answer clears what is there',
  level: 'hint',
  why: 'Whoever leaves a field empty has mostly nothing to add, and does not want to be forgotten.',
  find: ({ field, from, line, targetOf }) =>
    line.whenEmpty.kind === 'clear' &&
    from &&
    !from.required &&
    targetOf.duplicates === 'update' &&
    line.overwrite === null
      ? [
          {
            message: `Whoever leaves ${from.label} empty loses their ${field.label} there.`,
            fix: 'Choose "send nothing" when it is empty, unless that is meant.',
          },
        ]
      : [],
});
