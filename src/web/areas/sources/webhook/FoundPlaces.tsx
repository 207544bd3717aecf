import type { ShapeView } from '../../../../contract/webhook.ts';
import { withFieldsFor } from '../../../../core/intake/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { percent } from '../../../parts/figures.ts';

interface FoundPlacesProps {
  shape: ShapeView;
  fields: SourceField[];
  onFields: (fields: SourceField[]) => void;
}

/** What stands in the payloads that came: each place with what it seems to be, to be taken as a field. */
export function FoundPlaces({ shape: { samples, findings, gone }, fields, onFields }: FoundPlacesProps) {
  const taken = new Set(fields.map(({ path }) => path));
  const free = findings.filter(({ path }) => !taken.has(path));
  const useful = free.filter(({ path, secret }) => !secret && !path.includes('[*]'));
  const take = (chosen: typeof findings) => onFields(withFieldsFor(fields, chosen));
  if (samples === 0) return null;
  return (
    <section aria-labelledby="found">
      <h3 id="found" className="text-lg font-semibold">
        What stands in it
      </h3>
      <p className="text-muted mb-2">
        Found in {samples === 1 ? 'the one payload' : `the newest ${samples} payloads`} that came. Take what is needed.
      </p>
      {gone.map(({ path, kind, since, without, field }) => (
        <p key={`${kind} ${path}`} className="text-warning font-semibold mb-2" role="status">
          <code className="font-mono">{path}</code>
          {kind === '' ? '' : ` of ${kind}`} is gone since {new Date(since).toLocaleString('en-GB')}: {without} came
          without it.{field === '' ? '' : ` The field ${field} is read from there.`}
        </p>
      ))}
      <div className="overflow-auto max-h-96" tabIndex={0} role="region" aria-label="Places found">
        <table className="rows w-full text-sm">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">Seems to be</th>
              <th scope="col">Filled</th>
              <th scope="col">Such as</th>
              <th scope="col">
                <span className="sr-only">Take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {findings.map((finding) => {
              const { path, type, confidence, filled, example, personal, secret } = finding;
              return (
                <tr key={path}>
                  <td className="font-mono break-all">{path}</td>
                  <td>
                    {type}
                    {confidence < 1 && confidence > 0 && <span className="text-muted"> in {percent(confidence)}</span>}
                    {personal && <span className="text-muted">, personal</span>}
                    {secret && <span className="block text-warning font-semibold">looks secret</span>}
                  </td>
                  <td className="whitespace-nowrap">{percent(filled)}</td>
                  <td className="break-all text-muted">{secret ? 'not shown' : example}</td>
                  <td className="text-right">
                    {taken.has(path) ? (
                      <span className="text-muted whitespace-nowrap">a field</span>
                    ) : (
                      <button
                        type="button"
                        className="btn btn-xs"
                        aria-label={`Take ${path} as a field`}
                        onClick={() => take([finding])}
                      >
                        Take
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {useful.length > 1 && (
        <button type="button" className="btn btn-sm mt-2" onClick={() => take(useful)}>
          Take all {useful.length} that are left, but secrets and what is in lists
        </button>
      )}
    </section>
  );
}
