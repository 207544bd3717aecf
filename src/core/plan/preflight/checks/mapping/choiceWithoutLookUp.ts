import { answersOf } from '../../../../values/index.ts';
import { hasStep, lineCheck, quoted } from '../../check.ts';

export const choiceWithoutLookUp = lineCheck({
  code: 'answers are no choices there',
  level: 'warning',
  why: 'The other system takes its own choices only: whoever gives another answer arrives without it, or is held where it is required.',
  find: (checked) => {
    const { field, from } = checked;
    if (!from || !field.type.includes('choice') || field.choices.length === 0) return [];
    if (hasStep(checked, 'look-up', 'yes/no', 'find and replace')) return [];
    const wrong = answersOf(from).filter((answer) => !field.choices.includes(answer));
    return wrong.length === 0
      ? []
      : [
          {
            message: `${field.label} takes ${quoted(field.choices)} only, and ${from.label} can be ${quoted(wrong)}.`,
            fix: 'Add a look-up that says which answer is which choice.',
            mend: {
              kind: 'look-up' as const,
              options: { pairs: answersOf(from).map((answer) => [answer, closest(answer, field.choices)] as const) },
            },
          },
        ];
  },
});

/** The choice that is written alike but for capitals; '' for none: nothing is guessed. */
const closest = (answer: string, choices: string[]): string =>
  choices.find((choice) => choice.trim().toLowerCase() === answer.trim().toLowerCase()) ?? '';
