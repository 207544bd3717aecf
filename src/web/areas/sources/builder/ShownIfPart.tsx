import type { Condition } from '../../../../core/conditions/index.ts';
import type { Askable } from '../../../parts/conditions/knowledge.ts';
import { WhenPart } from '../../../parts/conditions/WhenPart.tsx';
import { firstAsked } from './askable.ts';
import { whenIs } from './whenWords.ts';

const WORDS = whenIs('Shown');

interface ShownIfPartProps {
  when: Condition | null;
  askable: Askable;
  onChange: (when: Condition | null) => void;
}

/** When something on a form is shown. Nothing can be asked of what stands first, where nothing is known of anybody. */
export function ShownIfPart({ when, askable, onChange }: ShownIfPartProps) {
  if (askable.all.length === 0 && when === null) return null;
  return (
    <div className="flex flex-col gap-2 border-t border-base-300 pt-3">
      <WhenPart when={when} words={WORDS} fields={firstAsked(askable)} askable={askable} onChange={onChange} />
    </div>
  );
}
