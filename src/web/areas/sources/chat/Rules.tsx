import { DAYS, type ChatPart, type ChatRule, type Hours } from '../../../../core/chat/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { WhenPart } from '../../../parts/conditions/WhenPart.tsx';
import { Field } from '../../../parts/Field.tsx';
import { newPartId } from '../../../parts/newPartId.ts';
import { AddButton, Onward, RemoveButton, replacedAt } from './StepControls.tsx';

const WORDS = {
  label: 'If',
  always: 'nothing before it held',
  all: 'all of these hold',
  any: 'one of these holds',
  none: 'none of these holds',
};
const OFFICE = { days: [1, 2, 3, 4, 5], from: '09:00', to: '17:00', zone: 'Europe/London' };

interface RulesProps {
  rules: ChatRule[];
  parts: ChatPart[];
  fields: SourceField[];
  known: SourceField[];
  onChange: (rules: ChatRule[]) => void;
}

/** The ways out of a decision: the first that holds is taken. */
export function Rules({ rules, parts, fields, known, onChange }: RulesProps) {
  const put = (at: number, next: ChatRule) => onChange(replacedAt(rules, at, next));
  return (
    <div className="flex flex-col gap-4">
      <p className="text-muted">The first that holds is taken. If none does, it goes on with the next step.</p>
      {rules.map((rule, at) => (
        <fieldset key={rule.id} className="box p-3 flex flex-col gap-2">
          <legend className="sr-only">Way {at + 1}</legend>
          {rule.hours === null ? (
            <WhenPart
              when={rule.when}
              words={WORDS}
              fields={fields.slice(0, 1)}
              askable={{ all: [...fields, ...known], visit: [], known }}
              onChange={(when) => put(at, { ...rule, when })}
            />
          ) : (
            <HoursPart hours={rule.hours} onChange={(hours) => put(at, { ...rule, hours })} />
          )}
          <div className="flex flex-wrap items-center gap-2">
            <span>then</span>
            <Onward
              label={`Where way ${at + 1} leads`}
              parts={parts}
              value={rule.to}
              onChange={(to) => put(at, { ...rule, to })}
            />
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => put(at, { ...rule, when: null, hours: rule.hours === null ? OFFICE : null })}
            >
              {rule.hours === null ? 'By the time of day' : 'By answers'}
            </button>
            <RemoveButton
              label={`Remove way ${at + 1}`}
              onPress={() => onChange(rules.filter((_, other) => other !== at))}
            />
          </div>
        </fieldset>
      ))}
      <AddButton
        label="Way"
        onPress={() => onChange([...rules, { id: newPartId(), when: null, hours: null, to: '' }])}
      />
    </div>
  );
}

function HoursPart({ hours, onChange }: { hours: Hours; onChange: (hours: Hours) => void }) {
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap gap-2">
        {DAYS.map((name, index) => (
          <label key={name} className="flex gap-1 items-center">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={hours.days.includes(index + 1)}
              onChange={({ target }) =>
                onChange({
                  ...hours,
                  days: target.checked
                    ? [...hours.days, index + 1].sort((a, b) => a - b)
                    : hours.days.filter((day) => day !== index + 1),
                })
              }
            />
            {name}
          </label>
        ))}
      </div>
      <div className="flex flex-wrap gap-2 items-end">
        <Field label="From">
          <input
            type="time"
            className="input input-sm w-28"
            value={hours.from}
            onChange={({ target }) => onChange({ ...hours, from: target.value })}
          />
        </Field>
        <Field label="To">
          <input
            type="time"
            className="input input-sm w-28"
            value={hours.to}
            onChange={({ target }) => onChange({ ...hours, to: target.value })}
          />
        </Field>
        <Field label="In the zone">
          <input
            className="input input-sm w-40"
            value={hours.zone}
            spellCheck={false}
            onChange={({ target }) => onChange({ ...hours, zone: target.value.trim() })}
          />
        </Field>
      </div>
    </div>
  );
}
