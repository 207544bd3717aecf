import { useId } from 'react';
import { tagsFor, type Target } from '../../../core/plan/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { setTagRule, tagFor } from './routeEdits.ts';

interface TagsPartProps {
  target: Target;
  fields: SourceField[];
  /** Tags that exist there. */
  known: string[];
  /** Whether the service can take tags off again. */
  canTakeOff: boolean;
  values: FieldValues;
  onChange: (part: Partial<Target>) => void;
}

/** Tags: some for everybody, some by answer. */
export function TagsPart({ target, fields, known, canTakeOff, values, onChange }: TagsPartProps) {
  const listId = useId();
  const answers = fields.flatMap((field) => {
    if (field.type === 'choice' || field.type === 'several choices')
      return field.options.map((answer) => ({ field, answer }));
    return field.type === 'yes/no' ? [{ field, answer: 'yes' }] : [];
  });
  const now = tagsFor(target, values);
  return (
    <div className="grid gap-5 sm:grid-cols-2">
      <div className="flex flex-col gap-1">
        <h4 className="font-semibold">Tags for everybody</h4>
        <LinesInput
          aria-label="Tags for everybody, one a line"
          lines={target.tags}
          onChange={(tags) => onChange({ tags })}
          rows={3}
        />
        <p className="text-quiet text-sm">
          One a line. There are: {known.join(', ') || 'none yet'}. Others are made there when first used.
        </p>
        {canTakeOff && (
          <>
            <h4 className="font-semibold mt-2">Tags taken off</h4>
            <LinesInput
              aria-label="Tags taken off everybody, one a line"
              lines={target.tagsOff}
              onChange={(tagsOff) => onChange({ tagsOff })}
              rows={2}
            />
          </>
        )}
        <p>
          For the sample: <strong>{now.join(', ') || 'none'}</strong>
        </p>
      </div>
      {answers.length > 0 && (
        <div>
          <h4 className="font-semibold mb-1">Tags by answer</h4>
          <datalist id={listId}>
            {known.map((tag) => (
              <option key={tag} value={tag} />
            ))}
          </datalist>
          <ul className="flex flex-col gap-1">
            {answers.map(({ field, answer }) => {
              const label = field.type === 'yes/no' ? `${field.label.slice(0, 60)}: yes` : answer;
              return (
                <li key={`${field.id} ${answer}`} className="grid grid-cols-[minmax(0,1fr)_9rem] gap-2 items-center">
                  <span className="leading-tight">{label}</span>
                  <input
                    className="input input-sm w-full"
                    list={listId}
                    placeholder="no tag"
                    aria-label={`Tag for ${label}`}
                    value={tagFor(target.tagRules, field.id, answer)}
                    onChange={(event) =>
                      onChange({ tagRules: setTagRule(target.tagRules, field.id, answer, event.target.value) })
                    }
                  />
                </li>
              );
            })}
          </ul>
        </div>
      )}
    </div>
  );
}
