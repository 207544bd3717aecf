import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { FIELD_TYPES, type FieldType, type SourceField } from '../../../core/values/index.ts';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { addField, changeField, KEEP_AS, moveField, removeField } from './fieldEdits.ts';

const typeWord = (type: FieldType): string => (type === 'tick' ? 'tick box' : type);

/** Those that most forms have; the others are a list away. */
const USUAL: FieldType[] = ['text', 'email', 'choice', 'tick'];

interface FieldsEditorProps {
  fields: SourceField[];
  /** Names that are live, on pages out there. */
  liveKeys: string[];
  onChange: (fields: SourceField[]) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}

export function FieldsEditor({ fields, liveKeys, onChange, about }: FieldsEditorProps) {
  return (
    <div className="flex flex-col gap-3">
      {fields.map((field, index) => (
        <FieldRow
          key={index}
          field={field}
          error={about(`/fields/${index}`)}
          isFirst={index === 0}
          isLast={index === fields.length - 1}
          onChange={(part) => onChange(changeField(fields, index, part, liveKeys))}
          onMove={(by) => onChange(moveField(fields, index, by))}
          onRemove={() => onChange(removeField(fields, index))}
        />
      ))}
      <div className="flex flex-wrap gap-2 items-center">
        <span className="text-quiet">Add</span>
        {USUAL.map((type) => (
          <button key={type} className="btn btn-sm" onClick={() => onChange(addField(fields, type))}>
            {typeWord(type)}
          </button>
        ))}
        <select
          className="select select-sm w-44"
          aria-label="Add a field of another type"
          value=""
          onChange={(event) => onChange(addField(fields, event.target.value as FieldType))}
        >
          <option value="">another type</option>
          {FIELD_TYPES.filter((type) => !USUAL.includes(type)).map((type) => (
            <option key={type} value={type}>
              {typeWord(type)}
            </option>
          ))}
        </select>
      </div>
    </div>
  );
}

interface FieldRowProps {
  field: SourceField;
  error: string | undefined;
  isFirst: boolean;
  isLast: boolean;
  onChange: (part: Partial<SourceField>) => void;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
}

function FieldRow({ field, error, isFirst, isLast, onChange, onMove, onRemove }: FieldRowProps) {
  const { key, label, type, required, options, several, help, preset, keepAs } = field;
  const kept = KEEP_AS.some(([value]) => value === keepAs)
    ? KEEP_AS
    : [...KEEP_AS, [keepAs, keepAs.replaceAll('_', ' ')] as [string, string]];
  return (
    <fieldset className="box p-3 grid gap-3 grid-cols-[minmax(0,1fr)_auto]">
      <legend className="sr-only">{label}</legend>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-[minmax(0,2fr)_minmax(0,1fr)_minmax(0,1fr)]">
        <label className="flex flex-col">
          <span className="text-quiet text-sm">Label</span>
          <input
            className="input input-sm w-full"
            value={label}
            onChange={(event) => onChange({ label: event.target.value })}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-quiet text-sm">Field name</span>
          <input
            className="input input-sm w-full font-mono"
            value={key}
            spellCheck={false}
            onChange={(event) => onChange({ key: event.target.value })}
          />
        </label>
        <label className="flex flex-col">
          <span className="text-quiet text-sm">Kept as</span>
          <select
            className="select select-sm w-full"
            value={keepAs}
            onChange={(event) => onChange({ keepAs: event.target.value })}
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
        </label>
        {type === 'choice' && (
          <label className="flex flex-col sm:col-span-3">
            <span className="text-quiet text-sm">Answers, one a line</span>
            <LinesInput
              lines={options}
              onChange={(lines) => onChange({ options: lines })}
              rows={Math.max(3, options.length + 1)}
            />
          </label>
        )}
        {type === 'hidden' && (
          <label className="flex flex-col sm:col-span-3">
            <span className="text-quiet text-sm">Value, unless the page sets another</span>
            <input
              className="input input-sm w-full"
              value={preset}
              onChange={(event) => onChange({ preset: event.target.value })}
            />
          </label>
        )}
        <div className="flex flex-wrap gap-x-5 sm:col-span-3 items-center">
          <strong className="font-semibold min-w-16">{typeWord(type)}</strong>
          {type !== 'hidden' && (
            <input
              className="input input-sm flex-1 min-w-40"
              aria-label={`Help under ${label}`}
              placeholder="help under the field, if it needs any"
              value={help}
              onChange={(event) => onChange({ help: event.target.value })}
            />
          )}
          {type !== 'hidden' && (
            <label className="flex gap-2 items-center py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={required}
                onChange={(event) => onChange({ required: event.target.checked })}
              />{' '}
              required
            </label>
          )}
          {type === 'choice' && (
            <label className="flex gap-2 items-center py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={several}
                onChange={(event) => onChange({ several: event.target.checked })}
              />{' '}
              several answers
            </label>
          )}
        </div>
        {error && <p className="text-error font-semibold sm:col-span-3">{error}</p>}
      </div>
      <div className="flex flex-col gap-1">
        <button
          className="btn btn-xs btn-ghost btn-square"
          aria-label={`Move ${label} up`}
          disabled={isFirst}
          onClick={() => onMove(-1)}
        >
          <ArrowUp size={15} aria-hidden="true" />
        </button>
        <button
          className="btn btn-xs btn-ghost btn-square"
          aria-label={`Move ${label} down`}
          disabled={isLast}
          onClick={() => onMove(1)}
        >
          <ArrowDown size={15} aria-hidden="true" />
        </button>
        <button className="btn btn-xs btn-ghost btn-square" aria-label={`Remove ${label}`} onClick={onRemove}>
          <Trash2 size={15} aria-hidden="true" />
        </button>
      </div>
    </fieldset>
  );
}
