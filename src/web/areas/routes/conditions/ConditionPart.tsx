import { useId } from 'react';
import { decide, inSentence, type Condition } from '../../../../core/conditions/index.ts';
import type { FieldValues, SourceField } from '../../../../core/values/index.ts';
import { useNow } from '../../../parts/useNow.ts';
import { groupOf, setGroup } from './conditionEdits.ts';
import { GroupEditor } from './GroupEditor.tsx';
import { useAskable } from './knowledge.ts';

interface ConditionPartProps {
  when: Condition | null;
  fields: SourceField[];
  /** Of the sample, with what is known of the person. */
  values: FieldValues;
  /** What it is about: whom it goes to, and what follows where it holds. */
  words?: { who: string; holds: string };
  onChange: (when: Condition | null) => void;
}

const WHO: [group: 'all' | 'any' | 'none', words: string][] = [
  ['all', 'those for whom all of this is true'],
  ['any', 'those for whom any of this is true'],
  ['none', 'those for whom none of this is true'],
];

const TO_TARGET = { who: 'Who goes there', holds: 'it goes there' };

/** For whom something is: everybody, or those for whom something is true; and what that means for the sample. */
export function ConditionPart({ when, fields, values, words = TO_TARGET, onChange }: ConditionPartProps) {
  const id = useId();
  const now = useNow();
  const askable = useAskable(fields);
  const group = groupOf(when);
  const decision = when && decide(when, { values, now }, askable.all);
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2">
        <label htmlFor={id} className="font-semibold">
          {words.who}
        </label>
        <select
          id={id}
          className="select select-sm w-auto"
          value={group?.kind ?? ''}
          onChange={(event) => onChange(setGroup(when, event.target.value, fields))}
        >
          <option value="">everybody</option>
          {WHO.map(([kind, said]) => (
            <option key={kind} value={kind}>
              {said}
            </option>
          ))}
        </select>
      </div>
      {group && <GroupEditor group={group} fields={fields} askable={askable} place="" onChange={onChange} />}
      {when && decision && (
        <p>
          {/* A single test says itself; several are said as they are understood. */}
          {(group?.of.length ?? 0) > 1 && <span className="text-quiet">{inSentence(when, askable.all)}. </span>}
          For the sample:{' '}
          {decision.verdict === 'holds' ? (
            <strong>{words.holds}</strong>
          ) : (
            <>
              <strong>it is left out</strong>, since {decision.why}
            </>
          )}
        </p>
      )}
    </div>
  );
}
