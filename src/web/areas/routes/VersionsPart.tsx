import { useState } from 'react';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import { routeChanges, type RouteDocument } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { usePublishWithNote, useReadVersion, useRouteVersion, useRouteVersions } from '../../data/routes.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { useRouteNames } from './useRouteNames.ts';

interface VersionsPartProps {
  route: RouteView;
  document: RouteDocument;
  sources: { id: string; name: string }[];
  connections: ConnectionView[];
  fields: SourceField[];
  /** Whether everything that was typed is saved. */
  isSaved: boolean;
  /** Takes a version back as the draft. */
  onTake: (document: RouteDocument) => void;
}

/** What was published of a route and by whom, what differs between any two, and the way back. */
export function VersionsPart({ route, document, sources, connections, fields, isSaved, onTake }: VersionsPartProps) {
  const versions = useRouteVersions(route.id);
  const publish = usePublishWithNote(route.id);
  // Undo brings back what was the draft before.
  const read = useReadVersion(route.id);
  const [note, setNote] = useState('');
  // Until somebody chooses another one, what is live is what it is compared with.
  const [chosen, setFrom] = useState<number | null>(null);
  const from = chosen ?? route.liveVersion;
  const [to, setTo] = useState<number | null>(null);
  const old = useRouteVersion(route.id, from);
  const other = useRouteVersion(route.id, to);
  const called = useRouteNames({ sources, connections, fields });
  const later = to === null ? document : other.data;
  const changes = old.data && later ? routeChanges(old.data, later, called) : null;
  const options = (versions.data ?? []).map(({ version }) => version);
  return (
    <section className="flex flex-col gap-5">
      <h3 className="text-lg font-semibold">Versions</h3>
      {options.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="font-semibold">What changed from</span>
          <VersionSelect label="From version" options={options} value={from} onChange={setFrom} />
          <span className="font-semibold">to</span>
          <VersionSelect label="To version" options={options} value={to} onChange={setTo} draft />
        </div>
      )}
      {changes && (
        <ul className="list-disc pl-5" aria-label="What changed">
          {changes.length === 0 ? <li>Nothing.</li> : changes.map((text) => <li key={text}>{text}</li>)}
        </ul>
      )}
      {(route.changed || route.liveVersion === null) && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            publish.mutate(note, { onSuccess: () => setNote('') });
          }}
        >
          <div className="flex-1 min-w-56">
            <Field label="What is said of the version" help="Optional; it is kept with who published it.">
              <input
                className="input input-sm w-full"
                maxLength={300}
                value={note}
                onChange={(event) => setNote(event.target.value)}
              />
            </Field>
          </div>
          <button className="btn btn-sm btn-primary" disabled={publish.isPending || !isSaved}>
            Publish version {(route.liveVersion ?? 0) + 1}
          </button>
        </form>
      )}
      <ActionError error={publish.error ?? read.error} />
      <Loaded query={versions}>
        {(list) =>
          list.length === 0 ? (
            <p className="text-muted">Nothing is published yet.</p>
          ) : (
            <table className="rows w-full">
              <thead>
                <tr>
                  <th scope="col">Version</th>
                  <th scope="col">Published</th>
                  <th scope="col">By</th>
                  <th scope="col">Note</th>
                  <th scope="col">
                    <span className="sr-only">Actions</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {list.map(({ version, publishedAt, by, note: said }) => (
                  <tr key={version}>
                    <td>
                      {version}
                      {version === route.liveVersion && <span className="text-muted"> (newest)</span>}
                    </td>
                    <td>
                      <Time at={publishedAt} />
                    </td>
                    <td>{by || <span className="text-muted">not recorded</span>}</td>
                    <td className="whitespace-normal">{said}</td>
                    <td className="text-right">
                      <button
                        className="btn btn-xs"
                        disabled={read.isPending}
                        onClick={() => read.mutate(version, { onSuccess: onTake })}
                      >
                        Take it as the draft
                      </button>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        }
      </Loaded>
    </section>
  );
}

function VersionSelect({
  label,
  options,
  value,
  onChange,
  draft = false,
}: {
  label: string;
  options: number[];
  value: number | null;
  onChange: (version: number | null) => void;
  /** Whether the draft can be chosen. */
  draft?: boolean;
}) {
  return (
    <select
      className="select select-sm w-auto"
      aria-label={label}
      value={value ?? ''}
      onChange={(event) => onChange(event.target.value === '' ? null : Number(event.target.value))}
    >
      {draft && <option value="">the draft</option>}
      {options.map((version) => (
        <option key={version} value={version}>
          version {version}
        </option>
      ))}
    </select>
  );
}
