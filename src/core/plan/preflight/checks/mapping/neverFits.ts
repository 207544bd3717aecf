import { READY, takesAny } from '../../../../mapping/index.ts';
import { lineCheck, type CheckedLine } from '../../check.ts';

export const neverFits = lineCheck({
  code: 'type cannot fit',
  level: 'blocker',
  why: 'None of the values that can come would be taken: the field stays empty there for everybody.',
  find: (line) => {
    const { field, from, type } = line;
    return from && type !== null && canNeverFit(line)
      ? [
          {
            message: `${field.label} takes ${field.type}, and ${from.label} gives ${type}, which can never be that.`,
            fix: 'Choose another field, or add a step that turns one into the other.',
            ...(type === 'yes/no' && field.type === 'number' ? { mend: READY.oneOrZero } : {}),
          },
        ]
      : [];
  },
});

/** Whether nothing that the line can give is taken there, whoever it is of. */
export const canNeverFit = ({ field, from, type, line }: CheckedLine): boolean =>
  from !== null && type !== null && !takesAny(field, type, line.steps.length === 0 ? from : null);
