import { optionsOf } from '../../../mapping/index.ts';
import { lineCheck, quoted } from '../check.ts';
import { answersOf } from './answers.ts';

export const lookUpMisses = lineCheck({
  code: 'look-up misses answers',
  level: 'warning',
  why: 'A person who gives such an answer arrives without it, or is held.',
  find: ({ line, field, from }) => {
    const step = line.steps.find(({ kind }) => kind === 'look-up');
    if (!step || !from) return [];
    const { pairs, unknown } = optionsOf(step);
    if (unknown === 'becomes the other value' || unknown === 'is kept' || typeof pairs !== 'object') return [];
    const known = new Set(pairs.map(([one]) => one.trim().toLowerCase()));
    const missing = answersOf(from).filter((answer) => !known.has(answer.toLowerCase()));
    return missing.length === 0
      ? []
      : [
          {
            message: `${field.label}: the look-up does not know the ${missing.length === 1 ? 'answer' : 'answers'} ${quoted(missing)}.`,
            fix: 'Add rows for them, or say what else becomes of what is not in the table.',
          },
        ];
  },
});
