import type { QuestionShown } from '../shown.ts';

/** Behind a label: that nobody has to answer. */
export function Optional({ shown: { field, say } }: { shown: QuestionShown }) {
  return field.required ? null : <span className="optional"> {say('optional')}</span>;
}
