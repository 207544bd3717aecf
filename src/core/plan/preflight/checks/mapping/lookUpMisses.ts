import { optionsOf } from '../../../../mapping/index.ts';
import { answersOf } from '../../../../values/index.ts';
import { lineCheck, quoted } from '../../check.ts';

export const lookUpMisses = lineCheck({
  code: 'look-up misses answers',
  level: 'warning',
  why: 'A person who gives such an answer arrives without it, or is held.',
  find: ({ line, field, from }) => {
    const step = line.steps.find(({ kind }) => kind === 'look-up');
    if (!step || !from) return [];
    const { pairs, unknown } = optionsOf(step);
    if (typeof pairs !== 'object') return [];
    const known = new Map(pairs.map(([one, to]) => [one.trim().toLowerCase(), to]));
    const misses = unknown === 'is left out' || unknown === 'is an error';
    // A row without a result gives as little as no row.
    const missing = answersOf(from).filter((answer) => {
      const to = known.get(answer.toLowerCase());
      return to === undefined ? misses : to === '';
    });
    return missing.length === 0
      ? []
      : [
          {
            message: `${field.label}: the look-up gives nothing for ${quoted(missing)}.`,
            fix: 'Say in its table what they become, or what else becomes of what is not in it.',
          },
        ];
  },
});
