import { isTicked } from '../../core/values/index.ts';
import type { QuestionShown } from '../shown.ts';
import { stateOf } from './Label.tsx';

/** A box that is ticked for yes; never for anybody beforehand. */
export function Tick({ shown }: { shown: QuestionShown }) {
  const { field, id, sent } = shown;
  return (
    <label className="option">
      <input type="checkbox" id={id} name={field.key} value="yes" defaultChecked={isTicked(sent)} {...stateOf(shown)} />{' '}
      <span dir="auto">{field.label}</span>
    </label>
  );
}
