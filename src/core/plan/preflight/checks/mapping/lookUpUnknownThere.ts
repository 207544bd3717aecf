import { optionsOf } from '../../../../mapping/index.ts';
import { lineCheck, quoted } from '../../check.ts';

export const lookUpUnknownThere = lineCheck({
  code: 'look-up gives what is no choice there',
  level: 'blocker',
  why: 'The other system refuses a value that is not among its choices, and with it often the whole person.',
  find: ({ line, field }) => {
    const last = line.steps.at(-1);
    if (last?.kind !== 'look-up' || !field.type.includes('choice') || field.choices.length === 0) return [];
    const { pairs, unknown, other } = optionsOf(last);
    const given = typeof pairs === 'object' ? pairs.map(([, to]) => to) : [];
    if (unknown === 'becomes the other value' && typeof other === 'string') given.push(other);
    const wrong = [...new Set(given)].filter((value) => value !== '' && !field.choices.includes(value));
    return wrong.length === 0
      ? []
      : [
          {
            message: `${field.label} has no choice ${quoted(wrong)}, which the look-up gives.`,
            fix: `Choose among ${quoted(field.choices)}.`,
          },
        ];
  },
});
