import { useQueryState } from 'nuqs';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { SourceLine } from '../../../contract/entries.ts';
import type { RouteView } from '../../../contract/route.ts';
import type { SampleView, SourceView } from '../../../contract/source.ts';
import { edgeSamples, factFields, factsOf } from '../../../core/intake/index.ts';
import { importedForPreview } from '../../../core/plan/index.ts';
import { knowledgeFields, type RouteDocument, type Target } from '../../../core/plan/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { useOffersAnew } from '../../data/connections.ts';
import { usePublishing } from '../../data/publishing.ts';
import { usePurposes } from '../../data/purposes.ts';
import { useKeepRoute, useRehearsal, type Rehearsed } from '../../data/routes.ts';
import { useKnownSamples, useSamples, useSourcesNamed } from '../../data/sources.ts';
import { EntryMore } from '../../parts/entries/EntryDialog.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { PublishBar } from '../../parts/PublishBar.tsx';
import { useDraft } from '../../parts/useDraft.ts';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { KnowledgeContext } from '../../parts/conditions/knowledge.ts';
import { ConsentPart } from './ConsentPart.tsx';
import { MailsPart } from './MailsPart.tsx';
import { PublishRouteChanges } from './PublishRouteChanges.tsx';
import { useRouteNames } from './useRouteNames.ts';
import { ProgressBar } from './ProgressBar.tsx';
import { Rehearsal } from './Rehearsal.tsx';
import { placeOfLine } from './lines/lineEdits.ts';
import { mappedBefore } from './mappedBefore.ts';
import { joinBranch, mended, newTarget, withReason } from './routeEdits.ts';
import { findingsByPart, firstPart, partIn, partOfTarget, targetNames, type RoutePart } from './routeParts.ts';
import { RouteStrip } from './RouteStrip.tsx';
import { SamplePanel } from './SamplePanel.tsx';
import { SourcesPart } from './SourcesPart.tsx';
import { SendingsPart } from './sendings/SendingsPart.tsx';
import { AddTarget } from './AddTarget.tsx';
import { SampleTable } from './table/SampleTable.tsx';
import { TargetPart } from './TargetPart.tsx';
import { VersionsPart } from './VersionsPart.tsx';

/** The route bench: the route as a strip, one part of it at a time below; the sample on the left, on the right what would happen. */
export function RouteBench({
  route,
  choices,
  folders,
  others,
  connections,
}: {
  route: RouteView;
  /** Every source that it could take from. */
  choices: SourceLine[];
  /** The folders that there are. */
  folders: string[];
  /** What was mapped in others is suggested. */
  others: { routes: RouteView[]; sources: SourceView[] };
  connections: ConnectionView[];
}) {
  const draft = useDraft<RouteDocument>({ document: route.draft, revision: route.draftAt }, useKeepRoute(route.id));
  const publishing = usePublishing('routes', route.id);
  const [params, setParams] = useSearchParams();
  const [askedPart, setPart] = useQueryState('part', { defaultValue: '', history: 'push' });
  const [typed, setTyped] = useState<{ id: string; values: FieldValues } | null>(null);
  const [asking, setAsking] = useState(false);
  const [, setLine] = useQueryState('line', { defaultValue: '' });
  const { document, change, issues } = draft;
  const part = partIn(askedPart, document);
  const show = (next: RoutePart) => void setPart(next);
  const own = useSourcesNamed(document.sourceIds).sources;
  // Whose samples are shown: in the URL, or else the first.
  const source = own.find(({ id }) => id === params.get('source')) ?? own[0];
  const samples = useSamples(source?.id ?? '');
  const fields = fieldsOf(own);
  // What the table of all leads to may be older than the newest few.
  const asked = params.get('sample') ?? '';
  const edges = edgeSamples(source?.draft.fields ?? [], source?.draft.kind === 'form');
  const edge = edges.find(({ id }) => id === asked);
  const isOlder = asked !== '' && !edge && samples.data !== undefined && !samples.data.some(({ id }) => id === asked);
  const known = useKnownSamples(source?.id ?? '', isOlder);

  const hints = useMemo(
    () => ({
      samples: (samples.data ?? []).map((sample) => sample.values),
      before: mappedBefore(others.routes, route.id, { sources: others.sources, connections }),
    }),
    [samples.data, others.routes, others.sources, route.id, connections],
  );

  const chosen: Pick<SampleView, 'id' | 'values' | 'visit'> | undefined = edge
    ? { ...edge, visit: {} }
    : ([...(samples.data ?? []), ...(known.data ?? [])].find(({ id }) => id === asked) ?? samples.data?.[0]);
  const values = typed && typed.id === chosen?.id ? typed.values : (chosen?.values ?? null);
  const sample: Rehearsed = {
    sourceId: source?.id ?? '',
    values,
    visit: chosen?.visit ?? {},
    standing: edge?.standing ?? '',
  };
  useOffersAnew([...new Set(document.targets.map(({ connectionId }) => connectionId))]);
  const rehearsal = useRehearsal(route, sample);
  const facts = { ...factsOf(values ?? {}, sample.visit), ...rehearsal.data?.knows };
  const purposes = usePurposes();
  const knowledge = useMemo(() => knowledgeFields(purposes.data ?? [], connections), [purposes.data, connections]);
  const called = useRouteNames({ sources: choices, connections, fields: [...factFields(fields), ...knowledge] });
  const setTarget = (index: number, target: Target) =>
    change({ ...document, targets: document.targets.map((one, at) => (at === index ? target : one)) });
  const names = targetNames({ ...route, draft: document });
  const index = document.targets.findIndex(({ id }) => part === partOfTarget(id));
  const target = document.targets[index];
  useTellOpen(route.name, route.changed ? 'changed, not published' : route.state, 'changed', route.draftAt);

  return (
    <KnowledgeContext value={knowledge}>
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
              setParams((before) => ({ ...Object.fromEntries(before), source: id, sample: '' }), { replace: true });
            }}
            samples={samples.data ?? []}
            onAll={() => show('samples')}
            edges={edges}
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
        right={
          <Rehearsal
            route={route}
            document={document}
            connections={connections}
            isUnsaved={draft.standing !== 'saved'}
            sample={sample}
            onGo={(next, line) => {
              show(next);
              void setLine(line ? placeOfLine(next.slice('target '.length), line) : '');
            }}
            onMend={(finding) => change(mended(document, finding))}
            onAccept={(finding, reason) => change(withReason(document, finding, reason))}
          />
        }
        middle={
          <>
            <PublishBar
              name={route.name}
              more={<EntryMore entries="routes" entry={route} folders={folders} />}
              exportPath={`/routes/${route.id}/export`}
              view={route}
              draft={draft}
              publishing={publishing}
              onPublish={route.liveVersion === null ? undefined : () => setAsking(true)}
              onVersions={() => show('versions')}
            />
            <Dialog title="Publish these changes?" open={asking} onClose={() => setAsking(false)} wide>
              {asking && (
                <PublishRouteChanges
                  route={route}
                  draft={document}
                  called={called}
                  onPublish={() => {
                    setAsking(false);
                    publishing.mutate('publish');
                  }}
                  onCancel={() => setAsking(false)}
                />
              )}
            </Dialog>
            <ProgressBar route={route} document={document} onShow={show} />
            <RouteStrip
              document={document}
              sourceNames={own.map(({ name }) => name)}
              names={names}
              findings={findingsByPart(route.findings, document)}
              shown={part}
              onShow={show}
            />
            <div className="p-4 flex flex-col gap-6">
              {part === 'source' && (
                <SourcesPart
                  own={own}
                  choices={choices}
                  chosen={document.sourceIds}
                  onChange={(sourceIds) => change({ ...document, sourceIds })}
                />
              )}
              {part === 'consent' && (
                <ConsentPart
                  consent={document.consent}
                  targets={document.targets}
                  connections={connections}
                  fields={fields}
                  statement={source ? (importedForPreview(source.draft)?.words ?? source.draft.statement) : ''}
                  issues={issues}
                  onChange={(consent) => change({ ...document, consent })}
                />
              )}
              {target && (
                <TargetPart
                  key={target.id}
                  target={target}
                  name={names[index] ?? ''}
                  asks={document.consent.asks}
                  fields={fields}
                  connections={connections}
                  values={facts}
                  hints={hints}
                  issues={issues.filter(({ pointer }) => pointer.startsWith(`/targets/${index}`))}
                  before={document.targets
                    .slice(0, index)
                    .map(({ id, branch }, at) => ({ id, branch, name: names[at] ?? '' }))}
                  onJoin={(other) => change(joinBranch(document, target.id, other))}
                  onChange={(next) => setTarget(index, next)}
                  onRemove={() => change({ ...document, targets: document.targets.filter((one) => one !== target) })}
                />
              )}
              {part === 'add' && (
                <AddTarget
                  connections={connections}
                  isFirst={document.targets.length === 0}
                  onAdd={({ id, catalogue }) => {
                    if (!catalogue) return;
                    const added = newTarget(id, catalogue, { fields, asks: document.consent.asks, hints });
                    change({ ...document, targets: [...document.targets, added] });
                    show(partOfTarget(added.id));
                  }}
                />
              )}
              {part === 'samples' && source && (
                <SampleTable
                  route={route}
                  document={document}
                  source={source}
                  connections={connections}
                  knowledge={knowledge}
                  onSend={() => show('sendings')}
                  onChoose={(id) =>
                    setParams((before) => ({ ...Object.fromEntries(before), sample: id, part: firstPart(document) }), {
                      replace: false,
                    })
                  }
                />
              )}
              {part === 'sendings' && <SendingsPart route={route} fields={fields} values={facts} />}
              {part === 'versions' && (
                <VersionsPart
                  route={route}
                  document={document}
                  sources={choices}
                  connections={connections}
                  fields={[...factFields(fields), ...knowledge]}
                  isSaved={draft.standing === 'saved'}
                  onTake={change}
                />
              )}
              {part === 'mails' && (
                <MailsPart
                  mails={document.mails}
                  fields={fields}
                  values={facts}
                  confirms={document.consent.confirmedBy.by === 'iwashi'}
                  issues={issues}
                  onChange={(mails) => change({ ...document, mails })}
                />
              )}
            </div>
          </>
        }
      />
    </KnowledgeContext>
  );
}

/** The fields of several sources, each once: those of one route have the same ids. */
function fieldsOf(sources: SourceView[]): SourceField[] {
  const fields = new Map(sources.flatMap(({ draft }) => draft.fields).map((field) => [field.id, field]));
  return [...fields.values()];
}
