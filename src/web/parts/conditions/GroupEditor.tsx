import { Plus, X } from 'lucide-react';
import type { Condition } from '../../../core/conditions/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { addPart, newGroup, newTest, removePart, replacePart, type Group } from './conditionEdits.ts';
import type { Askable } from './knowledge.ts';
import { TestRow } from './TestRow.tsx';

/** How deep groups stand in groups; a route takes no deeper ones. */
const DEEPEST = 3;

interface GroupEditorProps {
  group: Group;
  fields: SourceField[];
  askable: Askable;
  /** Where it stands, such as "2." for the second part; '' for the outermost. */
  place: string;
  /** null when its last part is taken away. */
  onChange: (group: Group | null) => void;
}

const TOGETHER: [kind: Group['kind'], words: string][] = [
  ['all', 'all of these are true'],
  ['any', 'any of these is true'],
  ['none', 'none of these is true'],
];

/** Tests that go together, and groups of such inside. */
export function GroupEditor({ group, fields, askable, place, onChange }: GroupEditorProps) {
  const depth = place.split('.').length - 1;
  return (
    <div className="pl-3 border-l-2 border-base-300 flex flex-col gap-2">
      {group.of.map((part, index) => {
        const number = `${place}${index + 1}`;
        const set = (next: Condition) => onChange(replacePart(group, part, next));
        const remove = () => onChange(removePart(group, part));
        return part.kind === 'test' ? (
          <TestRow key={part.id} test={part} number={number} askable={askable} onChange={set} onRemove={remove} />
        ) : (
          <div key={`group ${number}`} className="flex flex-col gap-2">
            <div className="flex items-center gap-2">
              <select
                className="select select-sm w-auto"
                aria-label={`How the tests of ${number} go together`}
                value={part.kind}
                onChange={(event) => set({ ...part, kind: event.target.value as Group['kind'] })}
              >
                {TOGETHER.map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </select>
              <button className="btn btn-xs btn-ghost btn-square" aria-label={`Remove test ${number}`} onClick={remove}>
                <X size={14} aria-hidden="true" />
              </button>
            </div>
            <GroupEditor
              group={part}
              fields={fields}
              askable={askable}
              place={`${number}.`}
              onChange={(next) => (next ? set(next) : remove())}
            />
          </div>
        );
      })}
      <div className="flex gap-2">
        <button className="btn btn-xs" onClick={() => onChange(addPart(group, newTest(fields)))}>
          <Plus size={13} aria-hidden="true" /> Test
        </button>
        {depth < DEEPEST && (
          <button className="btn btn-xs" onClick={() => onChange(addPart(group, newGroup(group.kind, fields)))}>
            <Plus size={13} aria-hidden="true" /> Several tests that go together
          </button>
        )}
      </div>
    </div>
  );
}
