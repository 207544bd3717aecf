import { chainTrouble, stepInWords } from '../../../../mapping/index.ts';
import { lineCheck } from '../../check.ts';

const aOrAn = (word: string): string => `${/^[aeiou]/.test(word) ? 'an' : 'a'} ${word}`;

export const chainBroken = lineCheck({
  code: 'a step cannot take what comes',
  level: 'blocker',
  why: 'The value goes through it unchanged, and arrives as nobody meant.',
  find: ({ field, line, start }) => {
    const trouble = start && chainTrouble(start, line.steps);
    return trouble
      ? [
          {
            message: `${field.label}: the step "${stepInWords(trouble.step)}" cannot take ${aOrAn(trouble.came)}.`,
            fix: trouble.mend
              ? `Put the step "${stepInWords(trouble.mend)}" before it, or take it away.`
              : 'Take the step away.',
          },
        ]
      : [];
  },
});
