import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import { FIELD_TYPES, type SourceField, type TypeName } from '../../../core/values/index.ts';
import { Labelled } from '../../parts/Labelled.tsx';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { addField, changeField, moveField, removeField } from './fieldEdits.ts';
import { KeptAs, OPTION_LABELS } from './fieldParts.tsx';

/** Those that most sources have; the others are a list away. */
const USUAL: TypeName[] = ['text', 'email', 'choice', 'yes/no'];

interface FieldsEditorProps {
  fields: SourceField[];
  /** Ids that are live: values are kept under them. */
  liveIds: string[];
  onChange: (fields: SourceField[]) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}

/** The fields that are taken out of what another system posts. */
export function FieldsEditor({ fields, liveIds, onChange, about }: FieldsEditorProps) {
  return (
    <div className="flex flex-col gap-3">
      {fields.map((field, index) => (
        <FieldRow
          key={index}
          field={field}
          error={about(`/fields/${index}`)}
          isFirst={index === 0}
          isLast={index === fields.length - 1}
          onChange={(part) => onChange(changeField(fields, index, part, liveIds))}
          onMove={(by) => onChange(moveField(fields, index, by))}
          onRemove={() => onChange(removeField(fields, index))}
        />
      ))}
      <div className="flex flex-wrap gap-2 items-center">
        <span className="text-muted">Add</span>
        {USUAL.map((type) => (
          <button key={type} className="btn btn-sm" onClick={() => onChange(addField(fields, type))}>
            {type}
          </button>
        ))}
        <select
          className="select select-sm w-44"
          aria-label="Add a field of another type"
          value=""
          onChange={(event) => onChange(addField(fields, event.target.value as TypeName))}
        >
          <option value="">another type</option>
          {FIELD_TYPES.filter((type) => !USUAL.includes(type)).map((type) => (
            <option key={type} value={type}>
              {type}
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
  const { key, label, type, required, path, options } = field;
  const optionLabel = OPTION_LABELS[type];
  return (
    <fieldset className="box p-3 grid gap-3 grid-cols-[minmax(0,1fr)_auto]">
      <legend className="sr-only">{label}</legend>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-3">
        <Labelled label="Label">
          <input
            className="input input-sm w-full"
            value={label}
            onChange={(event) => onChange({ label: event.target.value })}
          />
        </Labelled>
        <Labelled label="Name">
          <input
            className="input input-sm w-full font-mono"
            value={key}
            spellCheck={false}
            onChange={(event) => onChange({ key: event.target.value })}
          />
        </Labelled>
        <Labelled label="Type">
          <select
            className="select select-sm w-full"
            value={type}
            onChange={(event) => onChange({ type: event.target.value as TypeName })}
          >
            {FIELD_TYPES.map((one) => (
              <option key={one} value={one}>
                {one}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled label="Where to find it">
          <input
            className="input input-sm w-full font-mono"
            value={path}
            spellCheck={false}
            placeholder="under its name"
            onChange={(event) => onChange({ path: event.target.value.trim() })}
          />
        </Labelled>
        <KeptAs field={field} onChange={onChange} />
        <label className="flex gap-2 items-end pb-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={required}
            onChange={(event) => onChange({ required: event.target.checked })}
          />{' '}
          required
        </label>
        {optionLabel && (
          <div className="sm:col-span-3">
            <Labelled label={optionLabel}>
              <LinesInput
                lines={options}
                onChange={(lines) => onChange({ options: lines })}
                rows={Math.max(type === 'file' ? 1 : 3, options.length + 1)}
              />
            </Labelled>
          </div>
        )}
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
