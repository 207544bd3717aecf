import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import type { ReactNode } from 'react';
import { AUTOFILL_TOKENS } from '../../../core/formats/index.ts';
import type { MadeKind } from '../../../core/intake/index.ts';
import {
  FIELD_TYPES,
  isTick,
  KEEP_RULES,
  widgetsOf,
  WIDTHS,
  type KeepRule,
  type SourceField,
  type TypeName,
  type Widget,
  type Width,
} from '../../../core/values/index.ts';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { addField, changeField, KEEP_AS, moveField, removeField } from './fieldEdits.ts';

/** What a widget is called for a type. */
function widgetWord(type: TypeName, widget: Widget): string {
  if (widget === 'hidden') return 'hidden';
  if (widget === 'buttons') return type === 'yes/no' ? 'two buttons' : 'buttons';
  return type === 'yes/no'
    ? 'tick box'
    : type === 'choice'
      ? 'drop-down'
      : type === 'several choices'
        ? 'tick boxes'
        : 'usual';
}

/** Those that most forms have; the others are a list away. */
const USUAL: [label: string, type: TypeName][] = [
  ['text', 'text'],
  ['email', 'email'],
  ['choice', 'choice'],
  ['tick box', 'yes/no'],
];

interface FieldsEditorProps {
  kind: MadeKind;
  fields: SourceField[];
  /** Ids that are live: pages out there, and values, use them. */
  liveIds: string[];
  onChange: (fields: SourceField[]) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}

export function FieldsEditor({ kind, fields, liveIds, onChange, about }: FieldsEditorProps) {
  return (
    <div className="flex flex-col gap-3">
      {fields.map((field, index) => (
        <FieldRow
          key={index}
          kind={kind}
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
        <span className="text-quiet">Add</span>
        {USUAL.map(([label, type]) => (
          <button key={label} className="btn btn-sm" onClick={() => onChange(addField(fields, type))}>
            {label}
          </button>
        ))}
        {kind === 'form' && (
          <button
            className="btn btn-sm"
            onClick={() => onChange(addField(fields, 'text', { label: 'Topic', widget: 'hidden' }))}
          >
            hidden
          </button>
        )}
        <select
          className="select select-sm w-44"
          aria-label="Add a field of another type"
          value=""
          onChange={(event) => onChange(addField(fields, event.target.value as TypeName))}
        >
          <option value="">another type</option>
          {FIELD_TYPES.filter((type) => !USUAL.some(([, usual]) => usual === type)).map((type) => (
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
  kind: MadeKind;
  field: SourceField;
  error: string | undefined;
  isFirst: boolean;
  isLast: boolean;
  onChange: (part: Partial<SourceField>) => void;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
}

function FieldRow({ kind, field, error, isFirst, isLast, onChange, onMove, onRemove }: FieldRowProps) {
  const { key, label, type, widget, required, path, keepAs, keepRule } = field;
  const kept = KEEP_AS.some(([value]) => value === keepAs)
    ? KEEP_AS
    : [...KEEP_AS, [keepAs, keepAs.replaceAll('_', ' ')] as [string, string]];
  const isShown = kind === 'form' && widget !== 'hidden';
  return (
    <fieldset className="box p-3 grid gap-3 grid-cols-[minmax(0,1fr)_auto]">
      <legend className="sr-only">{label}</legend>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-6">
        <Labelled label="Label">
          <input
            className="input input-sm w-full"
            value={label}
            onChange={(event) => onChange({ label: event.target.value })}
          />
        </Labelled>
        <Labelled label={kind === 'form' ? 'Field name' : 'Name'}>
          <input
            className="input input-sm w-full font-mono"
            value={key}
            spellCheck={false}
            onChange={(event) => onChange({ key: event.target.value })}
          />
        </Labelled>
        <Labelled label="Kept as">
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
        {kind === 'form' ? (
          <Labelled label="Entered by">
            <select
              className="select select-sm w-full"
              value={widget}
              onChange={(event) => onChange({ widget: event.target.value as Widget })}
            >
              {widgetsOf(type).map((one) => (
                <option key={one} value={one}>
                  {widgetWord(type, one)}
                </option>
              ))}
            </select>
          </Labelled>
        ) : (
          <Labelled label="Where to find it">
            <input
              className="input input-sm w-full font-mono"
              value={path}
              spellCheck={false}
              placeholder="under its name"
              onChange={(event) => onChange({ path: event.target.value.trim() })}
            />
          </Labelled>
        )}
        {widget !== 'hidden' && (
          <label className="flex gap-2 items-end pb-1.5 sm:col-span-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={required}
              onChange={(event) => onChange({ required: event.target.checked })}
            />{' '}
            required
          </label>
        )}
        {keepAs !== '' && !OF_THEIR_OWN.has(keepAs) && (
          <Labelled label="If known already">
            <select
              className="select select-sm w-full"
              value={keepRule}
              onChange={(event) => onChange({ keepRule: event.target.value as KeepRule })}
            >
              {KEEP_RULES.map((rule) => (
                <option key={rule} value={rule}>
                  {RULE_WORDS[rule]}
                </option>
              ))}
            </select>
          </Labelled>
        )}
        <Answers field={field} onChange={onChange} />
        {kind === 'form' && widget === 'hidden' && (
          <Labelled label="Value, unless the page sets another" whole>
            <Preset field={field} onChange={onChange} />
          </Labelled>
        )}
        {isShown && <Looks field={field} onChange={onChange} />}
        {error && <p className="text-error font-semibold sm:col-span-6">{error}</p>}
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

/** Kept values that identify: all of them are kept, and none takes the place of another. */
const OF_THEIR_OWN = new Set(['email', 'phone', 'id']);

const RULE_WORDS: Record<KeepRule, string> = {
  latest: 'keep the latest',
  first: 'keep what is known',
  longest: 'keep the longest',
  'most trusted': 'keep the most trusted',
};

interface PartProps {
  field: SourceField;
  onChange: (part: Partial<SourceField>) => void;
}

const OPTION_LABELS: Partial<Record<TypeName, string>> = {
  choice: 'Answers, one a line',
  'several choices': 'Answers, one a line',
  file: 'Kinds of files, one a line, such as application/pdf or image/*. Empty: any.',
  'list of records': 'Columns, one a line',
};

/** What a field offers or takes: answers, columns, kinds of files. */
function Answers({ field: { type, options }, onChange }: PartProps) {
  const label = OPTION_LABELS[type];
  if (label === undefined) return null;
  return (
    <Labelled label={label} whole>
      <LinesInput
        lines={options}
        onChange={(lines) => onChange({ options: lines })}
        rows={Math.max(type === 'file' ? 1 : 3, options.length + 1)}
      />
    </Labelled>
  );
}

/** How a field looks to visitors: what most fields leave as it is stands a click away. */
function Looks({ field, onChange }: PartProps) {
  const { type, help, errorText, placeholder, width, labelShown, autocomplete, label } = field;
  const isText = !['yes/no', 'several choices', 'file', 'list of records', 'person name', 'postal address'].includes(
    type,
  );
  const changed = [
    help !== '' && 'help',
    errorText !== '' && 'own error text',
    placeholder !== '' && 'placeholder',
    field.preset !== '' && 'first value',
    width !== 'full' && width,
    !labelShown && 'label hidden',
    autocomplete !== '' && autocomplete,
  ].filter(Boolean);
  return (
    <>
      <details className="sm:col-span-6">
        <summary className="cursor-pointer text-quiet">
          Looks and filling in{changed.length > 0 && `: ${changed.join(', ')}`}
        </summary>
        <div className="grid gap-x-3 gap-y-2 sm:grid-cols-6 pt-2">
          <Labelled label="Help under the field" whole>
            <input
              className="input input-sm w-full"
              aria-label={`Help under ${label}`}
              value={help}
              onChange={(event) => onChange({ help: event.target.value })}
            />
          </Labelled>
          <Labelled label="What is said when it cannot be taken" whole>
            <input
              className="input input-sm w-full"
              aria-label={`What is said when ${label} cannot be taken`}
              placeholder="what is wrong with it, in our words"
              value={errorText}
              onChange={(event) => onChange({ errorText: event.target.value })}
            />
          </Labelled>
          <Labelled label="Width">
            <select
              className="select select-sm w-full"
              value={width}
              onChange={(event) => onChange({ width: event.target.value as Width })}
            >
              {WIDTHS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </Labelled>
          {isText && (
            <>
              <Labelled label="Placeholder">
                <input
                  className="input input-sm w-full"
                  value={placeholder}
                  onChange={(event) => onChange({ placeholder: event.target.value })}
                />
              </Labelled>
              <Labelled label="First value">
                <Preset field={field} onChange={onChange} />
              </Labelled>
              <Labelled label="Filled in by browsers as">
                <select
                  className="select select-sm w-full"
                  value={autocomplete}
                  onChange={(event) => onChange({ autocomplete: event.target.value })}
                >
                  <option value="">what it means</option>
                  {AUTOFILL_TOKENS.map((token) => (
                    <option key={token} value={token}>
                      {token === 'off' ? 'nothing' : token}
                    </option>
                  ))}
                </select>
              </Labelled>
            </>
          )}
          {!isTick(field) && (
            <label className="flex gap-2 items-end pb-1.5 sm:col-span-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={labelShown}
                onChange={(event) => onChange({ labelShown: event.target.checked })}
              />{' '}
              label is seen
            </label>
          )}
        </div>
      </details>
    </>
  );
}

function Preset({ field: { type, options, preset }, onChange }: PartProps) {
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

function Labelled({ label, whole = false, children }: { label: string; whole?: boolean; children: ReactNode }) {
  return (
    <label className={`flex flex-col ${whole ? 'sm:col-span-6' : 'sm:col-span-2'}`}>
      <span className="text-quiet text-sm">{label}</span>
      {children}
    </label>
  );
}
