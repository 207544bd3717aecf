import { useId } from 'react';
import type { Condition } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { groupOf, setGroup } from './conditionEdits.ts';
import { GroupEditor } from './GroupEditor.tsx';
import type { Askable } from './knowledge.ts';

/** How what is asked of whom is said. */
export interface WhenWords {
  label: string;
  /** Where nothing is asked. */
  always: string;
  all: string;
  any: string;
  none: string;
}

interface WhenPartProps {
  when: Condition | null;
  words: WhenWords;
  /** What a new test begins with. */
  fields: SourceField[];
  askable: Askable;
  onChange: (when: Condition | null) => void;
}

/** When something is: always, or where tests hold. */
export function WhenPart({ when, words, fields, askable, onChange }: WhenPartProps) {
  const id = useId();
  const group = groupOf(when);
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <label htmlFor={id} className="font-semibold">
          {words.label}
        </label>
        <select
          id={id}
          className="select select-sm w-auto"
          value={group?.kind ?? ''}
          onChange={(event) => onChange(setGroup(when, event.target.value, fields))}
        >
          <option value="">{words.always}</option>
          {(['all', 'any', 'none'] as const).map((kind) => (
            <option key={kind} value={kind}>
              {words[kind]}
            </option>
          ))}
        </select>
      </div>
      {group && <GroupEditor group={group} fields={fields} askable={askable} place="" onChange={onChange} />}
    </>
  );
}
