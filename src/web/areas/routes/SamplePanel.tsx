import type { SampleView } from '../../../contract/source.ts';
import { isFile, typeOf, type FieldValue, type FieldValues, type SourceField } from '../../../core/values/index.ts';
import { sayWhen } from '../../parts/Time.tsx';
import { useNow } from '../../parts/useNow.ts';
import { FIELD_DRAG } from './lines/lineEdits.ts';

interface SamplePanelProps {
  fields: SourceField[];
  /** The sources of the route, of which samples can be shown. */
  sources: { id: string; name: string }[];
  sourceId: string;
  onSource: (id: string) => void;
  samples: SampleView[];
  /** Shows what the draft makes of all of them. */
  onAll: () => void;
  /** Made-up ones. */
  edges: { id: string; name: string }[];
  chosenId: string;
  values: FieldValues;
  onChoose: (id: string) => void;
  onType: (values: FieldValues) => void;
}

/** A real submission to try the route on; every value can be changed to see what would happen then. */
export function SamplePanel({
  fields,
  sources,
  sourceId,
  onSource,
  samples,
  edges,
  chosenId,
  values,
  onAll,
  onChoose,
  onType,
}: SamplePanelProps) {
  const now = useNow();
  const nameOf = ({ id, values: own, receivedAt }: SampleView) => {
    if (id === 'example') return 'made-up example';
    const address = Object.values(own).find(
      (value): value is string => typeof value === 'string' && value.includes('@'),
    );
    return `${address ?? 'submission'}, ${sayWhen(receivedAt, now)}`;
  };
  return (
    <div className="p-4 flex flex-col gap-4">
      {sources.length > 1 && (
        <label className="flex flex-col gap-1">
          <span className="font-semibold">Samples of</span>
          <select
            className="select select-sm w-full"
            value={sourceId}
            onChange={(event) => onSource(event.target.value)}
          >
            {sources.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      <label className="flex flex-col gap-1">
        <span className="font-semibold">Sample</span>
        <select className="select select-sm w-full" value={chosenId} onChange={(event) => onChoose(event.target.value)}>
          {!samples.some(({ id }) => id === chosenId) && !edges.some(({ id }) => id === chosenId) && (
            <option value={chosenId}>one from the table of all</option>
          )}
          {samples.map((sample) => (
            <option key={sample.id} value={sample.id}>
              {nameOf(sample)}
            </option>
          ))}
          <optgroup label="Made up, to try the edges">
            {edges.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </optgroup>
        </select>
      </label>
      <button className="btn btn-xs self-start" onClick={onAll}>
        Try it on all samples
      </button>
      <p className="text-muted text-sm">Change a value to see what would happen. Nothing is sent.</p>
      {fields.map((field) => (
        <div
          key={field.id}
          draggable
          title={`${field.label}: drag it onto a line, or type its name there`}
          onDragStart={(event) => event.dataTransfer.setData(FIELD_DRAG, field.id)}
        >
          <SampleValue
            field={field}
            value={values[field.id]}
            onChange={(value) => onType({ ...values, [field.id]: value })}
          />
        </div>
      ))}
    </div>
  );
}

function SampleValue({
  field,
  value,
  onChange,
}: {
  field: SourceField;
  value: FieldValue | undefined;
  onChange: (value: FieldValue) => void;
}) {
  const { label, type, options, key } = field;
  if (type === 'yes/no') {
    return (
      <label className="flex gap-2 items-start py-0.5">
        <input
          type="checkbox"
          className="checkbox checkbox-sm mt-0.5"
          checked={value === true}
          onChange={(event) => onChange(event.target.checked)}
        />
        <span>{label}</span>
      </label>
    );
  }
  if (type === 'several choices') {
    const chosen = Array.isArray(value) ? value.filter((one) => typeof one === 'string') : [];
    return (
      <fieldset>
        <legend className="text-sm text-muted">{label}</legend>
        {options.map((option) => (
          <label key={option} className="flex gap-2 items-start py-0.5">
            <input
              type="checkbox"
              className="checkbox checkbox-sm mt-0.5"
              checked={chosen.includes(option)}
              onChange={(event) =>
                onChange(event.target.checked ? [...chosen, option] : chosen.filter((one) => one !== option))
              }
            />
            <span>{option}</span>
          </label>
        ))}
      </fieldset>
    );
  }
  const text = value === undefined ? '' : typeof value === 'string' ? value : typeOf(type).print(value);
  const isLong =
    type === 'long text' || type === 'postal address' || type === 'membership' || type === 'list of records';
  if (type === 'file')
    return (
      <p>
        <span className="block text-sm text-muted">{label}</span>
        {isFile(value) ? value.name : <span className="text-muted">no file</span>}
      </p>
    );
  return (
    <label className="flex flex-col">
      <span className="text-sm text-muted">
        {label} <span className="font-mono text-xs">{key}</span>
      </span>
      {type === 'choice' ? (
        <select className="select select-sm w-full" value={text} onChange={(event) => onChange(event.target.value)}>
          <option value="" />
          {options.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </select>
      ) : isLong ? (
        <textarea
          className="textarea textarea-sm w-full"
          rows={5}
          value={text}
          onChange={(event) => onChange(event.target.value)}
        />
      ) : (
        <input className="input input-sm w-full" value={text} onChange={(event) => onChange(event.target.value)} />
      )}
    </label>
  );
}
