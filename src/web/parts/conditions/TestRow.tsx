import { X } from 'lucide-react';
import { TESTS, testsFor, type TestName } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { askAbout, type FieldTest } from './conditionEdits.ts';
import { AskedValue } from './AskedValue.tsx';
import type { Askable } from './knowledge.ts';

interface TestRowProps {
  test: FieldTest;
  /** Such as "2.1": the first test of the second part. */
  number: string;
  askable: Askable;
  onChange: (test: FieldTest) => void;
  onRemove: () => void;
}

/** One test: which field, how, and what it is compared with; only what the field's type can be asked. */
export function TestRow({ test, number, askable, onChange, onRemove }: TestRowProps) {
  const field = askable.all.find(({ id }) => id === test.field);
  const tests = field ? testsFor(field.type) : [test.test];
  const own = askable.all.filter((one) => !askable.visit.includes(one) && !askable.known.includes(one));
  // A test of before stays to be seen, also where the type of the field does not have it.
  const offered = tests.includes(test.test) ? tests : [test.test, ...tests];
  const choose = (id: string) => {
    const next = askable.all.find((one) => one.id === id);
    if (next) onChange(askAbout(test, next));
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        className="select select-sm w-48"
        aria-label={`Field of test ${number}`}
        value={test.field}
        onChange={(event) => choose(event.target.value)}
      >
        {!field && <option value={test.field}>{test.field} (not there any more)</option>}
        <Options fields={own} />
        {askable.visit.length > 0 && (
          <optgroup label="How it came">
            <Options fields={askable.visit} />
          </optgroup>
        )}
        {askable.known.length > 0 && (
          <optgroup label="What is known of the person">
            <Options fields={askable.known} />
          </optgroup>
        )}
      </select>
      <select
        className="select select-sm w-40"
        aria-label={`Test ${number}`}
        value={test.test}
        onChange={(event) => onChange({ ...test, test: event.target.value as TestName })}
      >
        {offered.map((name) => (
          <option key={name} value={name}>
            {TESTS[name].words}
          </option>
        ))}
      </select>
      <AskedValue
        label={`What test ${number} compares with`}
        asks={TESTS[test.test].asks}
        field={field}
        value={test.value}
        onChange={(value) => onChange({ ...test, value })}
      />
      <button className="btn btn-xs btn-ghost btn-square" aria-label={`Remove test ${number}`} onClick={onRemove}>
        <X size={14} aria-hidden="true" />
      </button>
    </div>
  );
}

const Options = ({ fields }: { fields: SourceField[] }) =>
  fields.map(({ id, label }) => (
    <option key={id} value={id}>
      {label.length > 48 ? `${label.slice(0, 48)}…` : label}
    </option>
  ));
