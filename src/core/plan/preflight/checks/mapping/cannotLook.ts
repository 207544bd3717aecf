import { lineCheck } from '../../check.ts';

export const cannotLook = lineCheck({
  code: 'goes by what nobody can look at',
  level: 'blocker',
  why: 'What is there already would be overwritten all the same.',
  find: ({ field, line: { overwrite }, catalogue }) =>
    overwrite !== null && overwrite !== 'latest' && !catalogue.can.duplicates.includes('fill gaps')
      ? [
          {
            message: `${field.label} goes by what is there already, and nobody can be looked for there.`,
            fix: 'Let the latest value win.',
          },
        ]
      : [],
});
