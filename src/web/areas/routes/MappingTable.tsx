import { X } from 'lucide-react';
import {
  applyMapping,
  stepOf,
  stepsAfter,
  type DestinationField,
  type LineResult,
  type MapLine,
  type StepKind,
  withIds,
  withNames,
} from '../../../core/mapping/index.ts';
import { factFields, VISIT_FIELDS } from '../../../core/intake/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { Address } from '../../parts/Address.tsx';
import { addStep, choiceOf, removeStep, setFixed, setOrigin, setText } from './routeEdits.ts';

interface MappingTableProps {
  destination: DestinationField[];
  lines: MapLine[];
  fields: SourceField[];
  values: FieldValues;
  onChange: (lines: MapLine[]) => void;
}

/** One row a destination field, required first: what fills it, the steps on the way, and the result for the sample. */
export function MappingTable({ destination, lines, fields, values, onChange }: MappingTableProps) {
  const results = applyMapping(destination, lines, values);
  return (
    <table className="rows w-full">
      <thead>
        <tr>
          <th scope="col">Field there</th>
          <th scope="col">Filled from</th>
          <th scope="col">Steps</th>
          <th scope="col">Result for the sample</th>
        </tr>
      </thead>
      <tbody>
        {results.map((result) => (
          <MappingRow key={result.field.key} result={result} fields={fields} lines={lines} onChange={onChange} />
        ))}
      </tbody>
    </table>
  );
}

function MappingRow({
  result,
  fields,
  lines,
  onChange,
}: {
  result: LineResult;
  fields: SourceField[];
  lines: MapLine[];
  onChange: (lines: MapLine[]) => void;
}) {
  const { field, line } = result;
  const origin = choiceOf(line);
  const known = line?.from.kind !== 'field' || factFields(fields).some(({ id }) => origin === `field:${id}`);
  return (
    <tr>
      <td>
        <div className="font-semibold">{field.label}</div>
        <div className="text-quiet text-sm">
          {field.type}
          {field.required && <strong className="text-base-content"> · required</strong>}
        </div>
      </td>
      <td className="min-w-40">
        <select
          className="select select-sm w-full"
          aria-label={`${field.label} is filled from`}
          value={origin}
          onChange={(event) => onChange(setOrigin(lines, field, event.target.value))}
        >
          <option value="">nothing</option>
          {fields.map(({ id, label }) => (
            <option key={id} value={`field:${id}`}>
              {label.length > 40 ? `${label.slice(0, 40)}…` : label}
            </option>
          ))}
          <optgroup label="How it came">
            {VISIT_FIELDS.map(({ id, label }) => (
              <option key={id} value={`field:${id}`}>
                {label}
              </option>
            ))}
          </optgroup>
          {!known && <option value={origin}>{origin.slice('field:'.length)} (not in the source)</option>}
          <option value="fixed:">a fixed value</option>
          <option value="text:">a text with fields in it</option>
        </select>
        {line?.from.kind === 'text' && (
          <TextOrigin
            field={field}
            text={line.from.text}
            fields={fields}
            onChange={(text) => onChange(setText(lines, field.key, text))}
          />
        )}
        {line?.from.kind === 'fixed' && (
          <input
            className="input input-sm w-full mt-1"
            aria-label={`Fixed value of ${field.label}`}
            placeholder="the value"
            value={line.from.value}
            onChange={(event) => onChange(setFixed(lines, field.key, event.target.value))}
          />
        )}
      </td>
      <td>
        {line?.from.kind === 'field' && (
          <div className="flex flex-wrap gap-1 items-center">
            {line.steps.map(({ kind }, index) => (
              <span
                key={`${kind} ${index}`}
                className="badge badge-outline gap-1 pr-1 border-base-300 whitespace-nowrap"
                title={stepOf(kind).help}
              >
                {kind}
                <button
                  className="btn btn-ghost btn-xs btn-circle"
                  aria-label={`Take the step ${kind} away from ${field.label}`}
                  onClick={() => onChange(removeStep(lines, field.key, index))}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              </span>
            ))}
            <select
              className="select select-xs w-18"
              aria-label={`Add a step to ${field.label}`}
              value=""
              onChange={(event) => onChange(addStep(lines, field.key, event.target.value as StepKind))}
            >
              <option value="">add</option>
              {stepsAfter(typeIn(line.from.field, fields), line.steps).map((kind) => (
                <option key={kind} value={kind}>
                  {`${kind}: ${stepOf(kind).help}`}
                </option>
              ))}
            </select>
          </div>
        )}
      </td>
      <td className="min-w-32">
        <Verdict result={result} />
      </td>
    </tr>
  );
}

/** The type of the field that a line starts from; a text where it is not in the source. */
const typeIn = (id: string, fields: SourceField[]) =>
  factFields(fields).find((field) => field.id === id)?.type ?? 'text';

/** A text with fields in it; each field is put in by a click, and by its name in braces. */
function TextOrigin({
  field,
  text,
  fields,
  onChange,
}: {
  field: DestinationField;
  text: string;
  fields: SourceField[];
  onChange: (text: string) => void;
}) {
  return (
    <div className="mt-1 flex flex-col gap-1">
      <textarea
        className="textarea textarea-sm w-full"
        rows={Math.min(6, text.split('\n').length + 1)}
        aria-label={`Text for ${field.label}`}
        placeholder="Words, with {field} where a value goes"
        value={withNames(text, fields)}
        onChange={(event) => onChange(withIds(event.target.value, fields))}
      />
      <select
        className="select select-xs w-full"
        aria-label={`Put a field into the text for ${field.label}`}
        value=""
        onChange={(event) => onChange(`${text}{${event.target.value}}`)}
      >
        <option value="">put in a field</option>
        {factFields(fields).map(({ id, key, label }) => (
          <option key={id} value={id}>
            {`${label.slice(0, 40)} {${key}}`}
          </option>
        ))}
      </select>
    </div>
  );
}

function Verdict({ result: { verdict } }: { result: LineResult }) {
  switch (verdict.kind) {
    case 'sent':
      return (
        <span className="break-words whitespace-pre-wrap font-semibold">
          <Address text={String(verdict.value)} />
        </span>
      );
    case 'empty':
      return <span className="text-quiet">empty, not sent</span>;
    case 'unmapped':
      return <span className="text-quiet">not sent</span>;
    case 'wrong':
      return <span className="text-error font-semibold">{verdict.message}</span>;
    default:
      return verdict satisfies never;
  }
}
