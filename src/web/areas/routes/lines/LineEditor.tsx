import { useRef } from 'react';
import { dequal } from 'dequal';
import { factFields } from '../../../../core/intake/index.ts';
import {
  OVERWRITE_RULES,
  withIds,
  withNames,
  type DestinationField,
  type MapLine,
  type OverwriteRule,
  type StepFacts,
  type Suggestion,
  type WhenEmpty,
} from '../../../../core/mapping/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { RULE_WORDS } from '../../../parts/ruleWords.ts';
import { ConditionPart } from '../../../parts/conditions/ConditionPart.tsx';
import { FirstOf } from './FirstOf.tsx';
import { changeLine, takesSteps } from './lineEdits.ts';
import { StepsEditor } from './StepsEditor.tsx';
import { sureInWords } from './SuggestionOffer.tsx';

interface LineEditorProps {
  field: DestinationField;
  line: MapLine;
  suggestion: Suggestion | undefined;
  fields: SourceField[];
  facts: StepFacts;
  lines: MapLine[];
  looks: boolean;
  onChange: (lines: MapLine[]) => void;
}

const EMPTY: Record<WhenEmpty['kind'], string> = {
  'leave out': 'send nothing: the existing value stays',
  clear: 'clear the field there',
  value: 'send this instead',
};

/** Everything about one line: what fills it, its steps with their results, what becomes of nothing and of what is there. */
export function LineEditor({ field, line, suggestion, fields, facts, lines, looks, onChange }: LineEditorProps) {
  const set = (part: Partial<MapLine>) => onChange(changeLine(lines, field.key, part));
  const { whenEmpty, overwrite, from } = line;
  const isSuggested = suggestion !== undefined && dequal(suggestion.line.from, from);
  return (
    <tr data-editor="" className="bg-base-200">
      <td colSpan={4} className="whitespace-normal">
        <div className="p-2 grid gap-5 md:grid-cols-[1fr_15rem]">
          <div className="flex flex-col gap-4">
            {isSuggested && (
              <p className="text-muted text-sm">
                Suggested, {sureInWords(suggestion.confidence)} sure: {suggestion.because.join('; ')}.
              </p>
            )}
            {from.kind === 'text' && (
              <TextOrigin
                label={field.label}
                text={from.text}
                fields={fields}
                onChange={(text) => set({ from: { kind: 'text', text } })}
              />
            )}
            {from.kind === 'fixed' && (
              <Field label="Fixed value">
                <input
                  className="input input-sm w-full"
                  value={from.value}
                  onChange={(event) => set({ from: { kind: 'fixed', value: event.target.value } })}
                />
              </Field>
            )}
            {from.kind === 'first' && (
              <FirstOf
                chosen={from.fields}
                fields={fields}
                values={facts.values}
                onChange={(chosen) => set({ from: { kind: 'first', fields: chosen } })}
              />
            )}
            {takesSteps(from) && (
              <StepsEditor field={field} line={line} fields={fields} facts={facts} lines={lines} onChange={onChange} />
            )}
            <ConditionPart
              when={line.when}
              fields={fields}
              values={facts.values}
              words={{ who: 'Filled for', holds: 'it is filled' }}
              onChange={(when) => set({ when })}
            />
          </div>
          <div className="flex flex-col gap-4">
            <Field label="When it is empty">
              <select
                className="select select-sm w-full"
                value={whenEmpty.kind}
                onChange={(event) => set({ whenEmpty: emptyOf(event.target.value) })}
              >
                {Object.entries(EMPTY).map(([kind, words]) => (
                  <option key={kind} value={kind}>
                    {words}
                  </option>
                ))}
              </select>
            </Field>
            {whenEmpty.kind === 'value' && (
              <Field label="Sent instead">
                <input
                  className="input input-sm w-full"
                  value={whenEmpty.value}
                  onChange={(event) => set({ whenEmpty: { kind: 'value', value: event.target.value } })}
                />
              </Field>
            )}
            <Field
              label="When the person is there already"
              help={looks ? undefined : 'Nobody can be looked for there, so that the new value always wins.'}
            >
              <select
                className="select select-sm w-full"
                value={overwrite ?? ''}
                disabled={!looks && overwrite === null}
                onChange={(event) => set({ overwrite: ruleOf(event.target.value) })}
              >
                <option value="">as the target says</option>
                {OVERWRITE_RULES.map((rule) => (
                  <option key={rule} value={rule}>
                    {RULE_WORDS[rule]}
                  </option>
                ))}
              </select>
            </Field>
          </div>
        </div>
      </td>
    </tr>
  );
}

const emptyOf = (kind: string): WhenEmpty =>
  kind === 'value' ? { kind, value: '' } : { kind: kind === 'clear' ? 'clear' : 'leave out' };

const ruleOf = (word: string): OverwriteRule | null => OVERWRITE_RULES.find((rule) => rule === word) ?? null;

/** A text with fields in it; each field is put in by a click, and by its name in braces. */
function TextOrigin({
  label,
  text,
  fields,
  onChange,
}: {
  label: string;
  text: string;
  fields: SourceField[];
  onChange: (text: string) => void;
}) {
  const words = useRef<HTMLTextAreaElement>(null);
  const shown = withNames(text, fields);
  /** Puts a field where one types, apart from the words beside it. */
  const insert = (id: string) => {
    const at = words.current?.selectionEnd ?? shown.length;
    const [before, after] = [shown.slice(0, at), shown.slice(at)];
    const gap = (isApart: boolean) => (isApart ? '' : ' ');
    const left = gap(before === '' || /[\s(["'/@-]$/.test(before));
    const right = gap(after === '' || /^[\s)\]"'/@.,;:!?-]/.test(after));
    const { key = id } = factFields(fields).find((field) => field.id === id) ?? {};
    onChange(withIds(`${before}${left}{${key}}${right}${after}`, fields));
  };
  return (
    <div className="flex flex-col gap-1">
      <Field label="Text">
        <textarea
          ref={words}
          className="textarea textarea-sm w-full"
          rows={Math.min(6, text.split('\n').length + 1)}
          placeholder="Words, with {field} where a value goes"
          value={shown}
          onChange={(event) => onChange(withIds(event.target.value, fields))}
        />
      </Field>
      <select
        className="select select-xs w-full"
        aria-label={`Insert a field into the text for ${label}`}
        value=""
        onChange={(event) => insert(event.target.value)}
      >
        <option value="">insert a field</option>
        {factFields(fields).map(({ id, key, label: name }) => (
          <option key={id} value={id}>
            {`${name.slice(0, 40)} {${key}}`}
          </option>
        ))}
      </select>
    </div>
  );
}
