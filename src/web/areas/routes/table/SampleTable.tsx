import { saidPartsOf } from '../../../../core/intake/index.ts';
import { useMemo } from 'react';
import type { ConnectionView } from '../../../../contract/connection.ts';
import type { SourceView } from '../../../../contract/source.ts';
import type { RouteView } from '../../../../contract/route.ts';
import { importedForPreview } from '../../../../core/plan/index.ts';
import { ODDITIES, oddFirst, type RouteDocument } from '../../../../core/plan/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { useRouteVersion } from '../../../data/routes.ts';
import { useKnownSamples } from '../../../data/sources.ts';
import { Address } from '../../../parts/Address.tsx';
import { LongBody } from '../../../parts/LongBody.tsx';
import { StateMark, stateWord } from '../../../parts/StateMark.tsx';
import { Failed } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { useNow } from '../../../parts/useNow.ts';
import { useRehearsedRows } from './useRehearsedRows.ts';

interface SampleTableProps {
  route: RouteView;
  document: RouteDocument;
  source: SourceView;
  connections: ConnectionView[];
  knowledge: SourceField[];
  /** Shows one of them on the bench. */
  onChoose: (id: string) => void;
  /** Leads to sending what is there. */
  onSend: () => void;
}

/** The draft over the last few hundred submissions, the odd ones first. */
export function SampleTable({ route, document, source, connections, knowledge, onChoose, onSend }: SampleTableProps) {
  const samples = useKnownSamples(source.id, true);
  const live = useRouteVersion(route.id, route.liveVersion);
  const now = useNow();
  const catalogues = useMemo(
    () => Object.fromEntries(connections.flatMap(({ id, catalogue }) => (catalogue ? [[id, catalogue]] : []))),
    [connections],
  );
  const judging = useMemo(
    () =>
      live.isLoading
        ? null
        : {
            ...source.draft,
            imported: importedForPreview(source.draft),
            tells: saidPartsOf(source.draft),
            catalogues,
            knowledge,
            now: Math.floor(now / 60_000) * 60_000,
            draft: document,
            live: live.data ?? null,
          },
    [source.draft, catalogues, knowledge, now, document, live.data, live.isLoading],
  );
  const { rows, isDone } = useRehearsedRows(samples.data, judging);
  if (samples.isError) return <Failed error={samples.error} again={() => void samples.refetch()} />;
  const sorted = oddFirst(rows);
  const counts = ODDITIES.map((oddity) => [oddity, rows.filter((row) => row.oddity === oddity).length] as const);
  return (
    <section aria-labelledby="all-samples" className="flex flex-col gap-2 min-h-0">
      <div className="flex items-center justify-between gap-2">
        <h3 id="all-samples" className="text-lg font-semibold">
          All samples
        </h3>
        <button className="btn btn-xs" onClick={onSend}>
          Send existing submissions
        </button>
      </div>
      <p aria-live="polite">
        {!samples.data || !isDone
          ? `Going through ${samples.data?.length ?? 'the newest'} submissions`
          : rows.length === 0
            ? 'Nothing has come through this source yet.'
            : counts
                .filter(([, count]) => count > 0)
                .map(([oddity, count]) => `${count} ${stateWord('sample', oddity)}`)
                .join(' · ')}
      </p>
      {rows.length > 0 && (
        <div className="overflow-auto max-h-[36rem]" role="region" aria-labelledby="all-samples" tabIndex={0}>
          <table className="rows w-full" aria-rowcount={sorted.length + 1}>
            <thead>
              <tr>
                <th scope="col">Who</th>
                <th scope="col">Came</th>
                <th scope="col">What the draft makes of it</th>
                <th scope="col" className="text-right">
                  Deliveries
                </th>
              </tr>
            </thead>
            <LongBody rows={sorted} keyOf={({ id }) => id} columns={4}>
              {(row) => (
                <>
                  <td>
                    <button className="plain-link text-left" onClick={() => onChoose(row.id)}>
                      <Address text={row.who || 'nobody'} />
                    </button>
                  </td>
                  <td className="text-muted whitespace-nowrap">
                    <Time at={row.receivedAt} />
                  </td>
                  <td className="whitespace-normal">
                    <StateMark of="sample" state={row.oddity} /> <span className="text-muted">{row.why}</span>
                  </td>
                  <td className="text-right">{row.deliveries}</td>
                </>
              )}
            </LongBody>
          </table>
        </div>
      )}
    </section>
  );
}
