import { useState } from 'react';
import { inferFields, readPayload, type PostedDocument } from '../../../../core/intake/index.ts';
import { parseJson } from '../../../../core/json/index.ts';
import { printValue, type SourceField } from '../../../../core/values/index.ts';

interface PastedExampleProps {
  document: PostedDocument;
  onFields: (fields: SourceField[]) => void;
}

/** An example of a payload, by which fields are proposed and tried before anything came. */
export function PastedExample({ document, onFields }: PastedExampleProps) {
  const [text, setText] = useState('');
  const example = parseJson(text);
  return (
    <section>
      <h2 className="font-semibold text-lg mb-2">Try it with an example</h2>
      <label className="flex flex-col gap-1">
        <span className="text-muted text-sm">JSON, as the other system sends it. It stays in this window.</span>
        <textarea
          className="textarea w-full font-mono text-xs"
          rows={6}
          spellCheck={false}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {text.trim() !== '' && example === undefined && <p className="text-error font-semibold">This is not JSON.</p>}
      {example !== undefined && (
        <div className="flex flex-col gap-3 mt-2">
          <div>
            <button className="btn btn-sm" onClick={() => onFields(inferFields(example))}>
              Take fields from it
            </button>{' '}
            <span className="text-muted">in the place of those there are</span>
          </div>
          <Reading document={document} json={example} />
        </div>
      )}
    </section>
  );
}

/** What is taken out of a payload by the fields, or what is wrong with it. */
export function Reading({ document, json }: { document: PostedDocument; json: unknown }) {
  const readings = read(document, json);
  if (!Array.isArray(readings)) return <p className="text-error font-semibold">{readings.problem}</p>;
  if (readings.length === 0) return <p className="text-muted">Nothing: its kind of event is ignored.</p>;
  return (
    <>
      {readings.map((reading, index) => (
        <div key={index}>
          {readings.length > 1 && <h4 className="font-semibold">Submission {index + 1}</h4>}
          <dl className="grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-3">
            {document.fields.map((field) => {
              const issue = reading.ok ? undefined : reading.issues.find((one) => one.field === field.key);
              const value = reading.ok ? printValue(reading.values[field.id]) : '';
              return (
                <div key={field.id} className="contents">
                  <dt className="text-muted">{field.label}</dt>
                  <dd className={`break-words whitespace-pre-wrap ${issue ? 'text-error font-semibold' : ''}`}>
                    {issue?.message ?? (value || (reading.ok ? <span className="text-muted">empty</span> : ''))}
                  </dd>
                </div>
              );
            })}
          </dl>
        </div>
      ))}
    </>
  );
}

function read(document: PostedDocument, json: unknown) {
  try {
    return readPayload(document, { kind: 'json', json, files: [] }, { known: {}, now: 0 });
  } catch {
    return { problem: 'A path is not a JSONPath.' };
  }
}
