import { Plus, X } from 'lucide-react';
import { useId } from 'react';
import {
  decide,
  inSentence,
  TEST_NAMES,
  TESTS,
  type Condition,
  type TestName,
} from '../../../core/conditions/index.ts';
import { factFields, VISIT_FIELDS } from '../../../core/intake/index.ts';
import { answersOf, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import { addTest, changeTest, groupOf, removePart, setGroup } from './conditionEdits.ts';

interface ConditionPartProps {
  when: Condition | null;
  fields: SourceField[];
  /** Of the sample. */
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

/** Who goes to a target: everybody, or those for whom something is true; and what that means for the sample. */
export function ConditionPart({ when, fields, values, words = TO_TARGET, onChange }: ConditionPartProps) {
  const id = useId();
  const known = factFields(fields);
  const group = groupOf(when);
  const decision = when && decide(when, values, known);
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
          {WHO.map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
      </div>
      {group?.of.map((part, index) =>
        part.kind === 'test' ? (
          <div key={part.id} className="flex flex-wrap items-center gap-2 pl-3 border-l-2 border-base-300">
            <select
              className="select select-sm w-48"
              aria-label={`Field of test ${index + 1}`}
              value={part.field}
              onChange={(event) => onChange(changeTest(when, part.id, { field: event.target.value }))}
            >
              {!known.some((field) => field.id === part.field) && (
                <option value={part.field}>{part.field} (not in the source)</option>
              )}
              {fields.map(({ id: fieldId, label }) => (
                <option key={fieldId} value={fieldId}>
                  {label.length > 40 ? `${label.slice(0, 40)}…` : label}
                </option>
              ))}
              <optgroup label="How it came">
                {VISIT_FIELDS.map(({ id: fieldId, label }) => (
                  <option key={fieldId} value={fieldId}>
                    {label}
                  </option>
                ))}
              </optgroup>
            </select>
            <select
              className="select select-sm w-36"
              aria-label={`Test ${index + 1}`}
              value={part.test}
              onChange={(event) => onChange(changeTest(when, part.id, { test: event.target.value as TestName }))}
            >
              {TEST_NAMES.map((name) => (
                <option key={name} value={name}>
                  {TESTS[name].words}
                </option>
              ))}
            </select>
            {TESTS[part.test].needsValue && (
              <Value
                number={index + 1}
                answers={known.find((field) => field.id === part.field)}
                value={part.value}
                onChange={(value) => onChange(changeTest(when, part.id, { value }))}
              />
            )}
            <button
              className="btn btn-xs btn-ghost btn-square"
              aria-label={`Remove test ${index + 1}`}
              onClick={() => onChange(removePart(when, part))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </div>
        ) : (
          // Several tests that stand together come with a route from a file. They are said, and can be taken away.
          <div key={`together-${index}`} className="flex flex-wrap items-center gap-2 pl-3 border-l-2 border-base-300">
            <span>{inSentence(part, known)}</span>
            <button
              className="btn btn-xs btn-ghost btn-square"
              aria-label={`Remove test ${index + 1}`}
              onClick={() => onChange(removePart(when, part))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </div>
        ),
      )}
      {group && (
        <div>
          <button className="btn btn-xs" onClick={() => onChange(addTest(when, fields))}>
            <Plus size={13} aria-hidden="true" /> Test
          </button>
        </div>
      )}
      {decision && (
        <p>
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

/** What a value is compared with: one of the answers, where the field has some. */
function Value({
  number,
  answers,
  value,
  onChange,
}: {
  number: number;
  answers: SourceField | undefined;
  value: string;
  onChange: (value: string) => void;
}) {
  const listId = useId();
  const options = answers ? answersOf(answers) : [];
  return (
    <>
      <input
        className="input input-sm w-48"
        aria-label={`What test ${number} compares with`}
        list={listId}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
      <datalist id={listId}>
        {options.map((option) => (
          <option key={option} value={option} />
        ))}
      </datalist>
    </>
  );
}
