import { X } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import type { SourceView } from '../../../contract/source.ts';
import type { ConsentPolicy, RouteDocument, Target } from '../../../core/plan/index.ts';
import { factsOf } from '../../../core/intake/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { PublishBar } from '../../parts/PublishBar.tsx';
import { useDraft } from '../../parts/useDraft.ts';
import { usePublishing } from '../../data/publishing.ts';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { useSamples } from '../../data/sources.ts';
import { ConsentPart } from './ConsentPart.tsx';
import { MailsPart } from './MailsPart.tsx';
import { newTarget } from './routeEdits.ts';
import { Rehearsal } from './Rehearsal.tsx';
import { SamplePanel } from './SamplePanel.tsx';
import { TargetPart } from './TargetPart.tsx';
import { useKeepRoute } from '../../data/routes.ts';

/** The route bench: the sample on the left, the wiring in the middle, and on the right what would happen. */
export function RouteBench({
  route,
  sources,
  connections,
}: {
  route: RouteView;
  sources: SourceView[];
  connections: ConnectionView[];
}) {
  const draft = useDraft<RouteDocument>({ document: route.draft, revision: route.draftAt }, useKeepRoute(route.id));
  const publishing = usePublishing('routes', route.id);
  const [params, setParams] = useSearchParams();
  const [typed, setTyped] = useState<{ id: string; values: FieldValues } | null>(null);
  const { document, change, issues } = draft;
  const own = sources.filter(({ id }) => document.sourceIds.includes(id));
  // Whose samples are shown: in the URL, or else the first.
  const source = own.find(({ id }) => id === params.get('source')) ?? own[0];
  const samples = useSamples(source?.id ?? '');
  const fields = fieldsOf(own);

  const chosen = samples.data?.find(({ id }) => id === params.get('sample')) ?? samples.data?.[0];
  const values = typed && typed.id === chosen?.id ? typed.values : (chosen?.values ?? null);
  const setTarget = (index: number, target: Target) =>
    change({ ...document, targets: document.targets.map((one, at) => (at === index ? target : one)) });
  const others = sources.filter(({ id }) => !document.sourceIds.includes(id));
  const setSources = (sourceIds: string[]) => change({ ...document, sourceIds });
  const setConsent = (consent: ConsentPolicy) => change({ ...document, consent });
  useTellOpen(route.name, route.changed ? 'changed, not published' : route.state, 'changed', route.draftAt);

  return (
    <Working
      id="route-bench"
      leftSize="19%"
      leftLabel="Sample"
      left={
        <SamplePanel
          fields={source?.draft.fields ?? []}
          sources={own}
          sourceId={source?.id ?? ''}
          onSource={(id) => {
            setTyped(null);
            setParams({ source: id }, { replace: true });
          }}
          samples={samples.data ?? []}
          chosenId={chosen?.id ?? ''}
          values={values ?? {}}
          onChoose={(id) => {
            setTyped(null);
            setParams((before) => ({ ...Object.fromEntries(before), sample: id }), { replace: true });
          }}
          onType={(next) => chosen && setTyped({ id: chosen.id, values: next })}
        />
      }
      rightLabel="What would happen"
      right={<Rehearsal route={route} sourceId={source?.id ?? ''} values={values} visit={chosen?.visit ?? {}} />}
      middle={
        <>
          <PublishBar
            name={route.name}
            exportPath={`/routes/${route.id}/export`}
            view={route}
            draft={draft}
            publishing={publishing}
          />
          <div className="p-5 flex flex-col gap-8">
            <div className="-mb-4 flex flex-wrap items-center gap-2">
              <Link to="/routes" className="plain-link">
                Routes
              </Link>
              · from
              {own.map(({ id, name }) => (
                <span key={id} className="badge badge-outline border-base-300 gap-1 pr-1">
                  <Link to={`/sources/${id}`} className="plain-link">
                    {name}
                  </Link>
                  {own.length > 1 && (
                    <button
                      className="btn btn-ghost btn-xs btn-circle"
                      aria-label={`Take nothing from ${name}`}
                      onClick={() => setSources(document.sourceIds.filter((one) => one !== id))}
                    >
                      <X size={12} aria-hidden="true" />
                    </button>
                  )}
                </span>
              ))}
              {own.length === 1 && sources.length > 1 && (
                <select
                  className="select select-sm w-auto"
                  aria-label="Take from another source instead"
                  value=""
                  onChange={(event) => setSources([event.target.value])}
                >
                  <option value="">replace with…</option>
                  {others.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              )}
              {others.length > 0 && (
                <select
                  className="select select-sm w-auto"
                  aria-label="Take from another source as well"
                  value=""
                  onChange={(event) => setSources([...document.sourceIds, event.target.value])}
                >
                  <option value="">add a source…</option>
                  {others.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              )}
            </div>
            {document.targets.map((target, index) => (
              <TargetPart
                key={index}
                target={target}
                asks={document.consent.asks}
                fields={fields}
                connections={connections}
                values={factsOf(values ?? {}, chosen?.visit ?? {})}
                issues={issues.filter(({ pointer }) => pointer.startsWith(`/targets/${index}`))}
                onChange={(next) => setTarget(index, next)}
                onRemove={() => change({ ...document, targets: document.targets.filter((_, at) => at !== index) })}
              />
            ))}
            <AddTarget
              connections={connections}
              isFirst={document.targets.length === 0}
              onAdd={({ id, catalogue }) =>
                catalogue &&
                change({
                  ...document,
                  targets: [...document.targets, newTarget(id, catalogue, { fields, asks: document.consent.asks })],
                })
              }
            />
            <ConsentPart
              consent={document.consent}
              targets={document.targets}
              connections={connections}
              fields={fields}
              statement={source?.draft.statement ?? ''}
              issues={issues}
              onChange={setConsent}
            />
            <MailsPart
              mails={document.mails}
              fields={fields}
              values={factsOf(values ?? {}, chosen?.visit ?? {})}
              confirms={document.consent.confirmedBy.by === 'iwashi'}
              issues={issues}
              onChange={(mails) => change({ ...document, mails })}
            />
          </div>
        </>
      }
    />
  );
}

/** The fields of several sources, each once: those of one route have the same ids. */
function fieldsOf(sources: SourceView[]): SourceField[] {
  const fields = new Map(sources.flatMap(({ draft }) => draft.fields).map((field) => [field.id, field]));
  return [...fields.values()];
}

function AddTarget({
  connections,
  isFirst,
  onAdd,
}: {
  connections: ConnectionView[];
  isFirst: boolean;
  onAdd: (connection: ConnectionView) => void;
}) {
  if (connections.length === 0) {
    return (
      <p>
        There is no connection to send to.{' '}
        <Link className="plain-link" to="/connections/new">
          Add one
        </Link>
        .
      </p>
    );
  }
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className={isFirst ? 'font-semibold' : 'text-quiet'}>
        {isFirst ? 'Where shall it go?' : 'Send it somewhere else as well:'}
      </span>
      {connections.map((connection) => (
        <button
          key={connection.id}
          disabled={!connection.catalogue}
          className={`btn btn-sm ${isFirst ? 'btn-primary' : ''}`}
          onClick={() => onAdd(connection)}
        >
          {connection.name}
        </button>
      ))}
    </div>
  );
}
