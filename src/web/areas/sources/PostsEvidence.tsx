import { useState } from 'react';
import type { SourceView } from '../../../contract/source.ts';
import { inferFields, readPayload, type PostsDocument } from '../../../core/intake/index.ts';
import { printValue, type SourceField } from '../../../core/values/index.ts';
import { CopyButton } from '../../parts/CopyButton.tsx';

interface PostsEvidenceProps {
  source: SourceView;
  document: PostsDocument;
  onFields: (fields: SourceField[]) => void;
}

/** An example of a payload, by which fields are proposed and tried; and the address to which programs post. */
export function PostsEvidence({ source, document, onFields }: PostsEvidenceProps) {
  const [text, setText] = useState('');
  const example = parse(text);
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-2">Try it with an example</h2>
        <label className="flex flex-col gap-1">
          <span className="text-quiet text-sm">JSON, as the other system sends it. It stays in this window.</span>
          <textarea
            className="textarea w-full font-mono text-xs"
            rows={10}
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
              <span className="text-quiet">in the place of those there are</span>
            </div>
            <Reading document={document} example={example} />
          </div>
        )}
      </section>
      <section>
        <h2 className="font-semibold text-lg mb-2">Send it here</h2>
        {source.liveVersion === null ? (
          <p className="text-quiet">Publish it first; then its address stands here.</p>
        ) : (
          <div className="flex flex-col gap-3">
            <p className="break-all font-mono text-sm">{source.postUrl}</p>
            <div>
              <CopyButton text={source.postUrl} label="Copy the address" />
            </div>
            <p>
              POST with JSON, form fields, or multipart form data with files. Who knows the address can send to it: keep
              it between the two systems.
            </p>
            <p>
              It is answered with 202 and the ids of the submissions once they are kept, and with what is wrong, by JSON
              Pointer, when they are not. A request that may be sent again takes an{' '}
              <code className="font-mono">Idempotency-Key</code>.
            </p>
          </div>
        )}
      </section>
    </div>
  );
}

/** What is taken out of the example, or what is wrong with it. */
function Reading({ document, example }: { document: PostsDocument; example: unknown }) {
  const readings = read(document, example);
  if (!Array.isArray(readings)) return <p className="text-error font-semibold">{readings.problem}</p>;
  return (
    <>
      {readings.map((reading, index) => (
        <div key={index}>
          {readings.length > 1 && <h3 className="font-semibold">Submission {index + 1}</h3>}
          <dl className="grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-3">
            {document.fields.map((field) => {
              const issue = reading.ok ? undefined : reading.issues.find((one) => one.field === field.key);
              const value = reading.ok ? printValue(reading.values[field.id]) : '';
              return (
                <div key={field.id} className="contents">
                  <dt className="text-quiet">{field.label}</dt>
                  <dd className={`break-words whitespace-pre-wrap ${issue ? 'text-error font-semibold' : ''}`}>
                    {issue?.message ?? (value || (reading.ok ? <span className="text-quiet">empty</span> : ''))}
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

function parse(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

function read(document: PostsDocument, json: unknown) {
  try {
    return readPayload(document, { kind: 'json', json, files: [] }, { known: {}, now: 0 });
  } catch {
    return { problem: 'A path is not a JSONPath.' };
  }
}
