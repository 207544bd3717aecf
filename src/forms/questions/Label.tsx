import type { QuestionShown } from '../shown.ts';
import { Optional } from './Optional.tsx';

/** Whether the label of a question that is typed stands where it is typed, or is not seen at all. */
const isUnseen = ({ field, labels }: QuestionShown): boolean => !field.labelShown || labels === 'inside';

/** The label of one input; none where it is not seen: then the input has it itself. */
export function Label({ shown }: { shown: QuestionShown }) {
  if (isUnseen(shown)) return null;
  return (
    <label htmlFor={shown.id} dir="auto">
      {shown.field.label}
      <Optional shown={shown} />
    </label>
  );
}

/** What an input is called, and what stands in it before anything is typed. */
export function namedBy(shown: QuestionShown, usual = ''): { 'aria-label'?: string; placeholder?: string } {
  const { field, labels, say } = shown;
  const label = field.required ? field.label : `${field.label} ${say('optional')}`;
  const placeholder = field.placeholder || (labels === 'inside' && field.labelShown ? label : usual);
  return {
    ...(isUnseen(shown) ? { 'aria-label': field.label } : {}),
    ...(placeholder === '' ? {} : { placeholder }),
  };
}

/** What every input of a question says of itself. */
export const stateOf = ({ field, wrong, described }: QuestionShown) => ({
  required: field.required,
  'aria-invalid': wrong === '' ? undefined : (true as const),
  'aria-describedby': described,
});
