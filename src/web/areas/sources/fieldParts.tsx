import type { SourceField, TypeName } from '../../../core/values/index.ts';
import { KEEP_RULES, type KeepRule } from '../../../core/values/index.ts';
import { Labelled } from '../../parts/Labelled.tsx';
import { KEEP_AS } from './fieldEdits.ts';

interface PartProps {
  field: SourceField;
  onChange: (part: Partial<SourceField>) => void;
}

/** What the lines of a field are, where it has some: answers, columns, kinds of files. */
export const OPTION_LABELS: Partial<Record<TypeName, string>> = {
  choice: 'Answers, one a line',
  'several choices': 'Answers, one a line',
  file: 'Kinds of files, one a line, such as application/pdf or image/*. Empty: any.',
  'list of records': 'Columns, one a line',
};

/** Kept values that identify: all of them are kept, and none takes the place of another. */
const OF_THEIR_OWN = new Set(['email', 'phone', 'id']);

const RULE_WORDS: Record<KeepRule, string> = {
  latest: 'keep the latest',
  first: 'keep what is known',
  longest: 'keep the longest',
  'most trusted': 'keep the most trusted',
};

/** Which value of a contact a field is, and which of two is the present one. */
export function KeptAs({ field: { key, keepAs, keepRule }, onChange }: PartProps) {
  const kept = KEEP_AS.some(([value]) => value === keepAs)
    ? KEEP_AS
    : [...KEEP_AS, [keepAs, keepAs.replaceAll('_', ' ')] as [string, string]];
  return (
    <>
      <Labelled label="Contact value">
        <select
          className="select select-sm w-full"
          value={keepAs}
          onChange={({ target }) => onChange({ keepAs: target.value })}
        >
          {kept.map(([value, word]) => (
            <option key={value} value={value}>
              {word}
            </option>
          ))}
          {!kept.some(([value]) => value === key) && (
            <option value={key}>{`${key.replaceAll('_', ' ')} (its own name)`}</option>
          )}
        </select>
      </Labelled>
      {keepAs !== '' && !OF_THEIR_OWN.has(keepAs) && (
        <Labelled label="If known already">
          <select
            className="select select-sm w-full"
            value={keepRule}
            onChange={({ target }) => onChange({ keepRule: target.value as KeepRule })}
          >
            {KEEP_RULES.map((rule) => (
              <option key={rule} value={rule}>
                {RULE_WORDS[rule]}
              </option>
            ))}
          </select>
        </Labelled>
      )}
    </>
  );
}

/** What a field holds before anybody enters anything. */
export function Preset({ field: { type, options, preset }, onChange }: PartProps) {
  const set = (value: string) => onChange({ preset: value });
  const answers = type === 'choice' ? options : type === 'yes/no' ? ['yes', 'no'] : null;
  if (!answers)
    return <input className="input input-sm w-full" value={preset} onChange={(event) => set(event.target.value)} />;
  return (
    <select className="select select-sm w-full" value={preset} onChange={(event) => set(event.target.value)}>
      <option value="">none</option>
      {answers.map((answer) => (
        <option key={answer}>{answer}</option>
      ))}
    </select>
  );
}
