import { decide, inSentence, type Condition } from '../../../core/conditions/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { useNow } from '../useNow.ts';
import { groupOf } from './conditionEdits.ts';
import { useAskable } from './knowledge.ts';
import { WhenPart } from './WhenPart.tsx';

interface ConditionPartProps {
  when: Condition | null;
  fields: SourceField[];
  /** Of the sample, with what is known of the person. */
  values: FieldValues;
  /** What it is about: whom it goes to, and what follows where it holds. */
  words?: { who: string; holds: string };
  onChange: (when: Condition | null) => void;
}

const WHO = {
  always: 'everybody',
  all: 'those for whom all of this is true',
  any: 'those for whom any of this is true',
  none: 'those for whom none of this is true',
};

const TO_TARGET = { who: 'Who goes there', holds: 'it goes there' };

/** For whom something is: everybody, or those for whom something is true; and what that means for the sample. */
export function ConditionPart({ when, fields, values, words = TO_TARGET, onChange }: ConditionPartProps) {
  const now = useNow();
  const askable = useAskable(fields);
  const group = groupOf(when);
  const decision = when && decide(when, { values, now }, askable.all);
  return (
    <div className="flex flex-col gap-2">
      <WhenPart
        when={when}
        words={{ ...WHO, label: words.who }}
        fields={fields}
        askable={askable}
        onChange={onChange}
      />
      {when && decision && (
        <p>
          {/* A single test says itself; several are said as they are understood. */}
          {(group?.of.length ?? 0) > 1 && <span className="text-muted">{inSentence(when, askable.all)}. </span>}
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
