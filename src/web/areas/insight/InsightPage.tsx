import { parseAsString, useQueryStates } from 'nuqs';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import type { InsightView } from '../../../contract/insight.ts';
import { DIMENSIONS, type Dimension } from '../../../core/insight/index.ts';
import { useInsight } from '../../data/insight.ts';
import { useSourceLines } from '../../data/sources.ts';
import { FilterSelect } from '../../parts/FilterSelect.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { ByThing } from './ByThing.tsx';
import { SpansTable } from './SpansTable.tsx';
import { FunnelTable } from './FunnelTable.tsx';

/** Charts are heavy, and nothing else needs them. */
const Trend = lazy(() => import('./Trend.tsx').then(({ Trend: Component }) => ({ default: Component })));

const BY_WORDS: Record<Exclude<Dimension, 'all'>, string> = {
  page: 'page',
  device: 'device',
  campaign: 'campaign',
  source: 'campaign source',
  medium: 'campaign medium',
  term: 'campaign term',
  content: 'campaign content',
  referrer: 'site they came from',
  cameBy: 'how they came',
  variant: 'variant',
  question: 'question',
};

const PERIODS: [days: number, words: string][] = [
  [7, '7 days'],
  [28, '4 weeks'],
  [91, '3 months'],
  [365, 'a year'],
];

const TEXT = parseAsString.withDefault('');

/** What came in, from where, and what became of it: every figure leads to the very submissions. */
export function InsightPage() {
  const [{ from, to, source, by, per }, set] = useQueryStates(
    {
      from: TEXT,
      to: TEXT,
      source: TEXT,
      by: parseAsString.withDefault('page'),
      per: parseAsString.withDefault('day'),
    },
    { shallow: false, history: 'push' },
  );
  const sources = useSourceLines();
  const insight = useInsight({
    by,
    per,
    ...(from ? { from } : {}),
    ...(to ? { to } : {}),
    ...(source ? { source } : {}),
  });
  const last = (days: number) => void set({ from: dayBefore(days - 1), to: dayBefore(0) });
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Insight">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <h1 className="text-lg font-semibold mr-2">Insight</h1>
        {PERIODS.map(([days, words]) => (
          <button key={days} className="btn btn-sm" onClick={() => last(days)}>
            {words}
          </button>
        ))}
        <Day label="From" value={from || insight.data?.from} onChange={(day) => void set({ from: day || null })} />
        <Day label="To" value={to || insight.data?.to} onChange={(day) => void set({ to: day || null })} />
        <span className="ml-auto" />
        <FilterSelect name="source" label="Source" every="Every source" options={sources.data} />
      </div>
      <Loaded query={insight}>
        {(view) => (
          <div className="p-4 flex flex-col gap-8">
            {isEmpty(view) ? (
              <Empty
                title="Nothing in this time"
                action={
                  <Link to="/sources" className="btn btn-sm btn-primary">
                    To the sources
                  </Link>
                }
              >
                What visitors meet and send is counted here as it happens: forms that were shown, sent, confirmed and
                delivered.
              </Empty>
            ) : (
              <>
                <FunnelTable view={view} />
                <SpansTable view={view} />
                <Suspense fallback={<p className="text-muted">Drawing…</p>}>
                  <Trend trend={view.trend} per={view.per} onPer={(next) => void set({ per: next })} />
                </Suspense>
              </>
            )}
            <section aria-labelledby="by">
              <div className="flex flex-wrap items-center gap-2 mb-2">
                <h2 id="by" className="text-lg font-semibold">
                  By
                </h2>
                <select
                  className="select select-sm w-auto"
                  aria-label="By what"
                  value={by}
                  onChange={(event) => void set({ by: event.target.value })}
                >
                  {DIMENSIONS.filter((one) => one !== 'all').map((one) => (
                    <option key={one} value={one}>
                      {BY_WORDS[one]}
                    </option>
                  ))}
                </select>
              </div>
              <ByThing view={view} />
            </section>
          </div>
        )}
      </Loaded>
    </div>
  );
}

const isEmpty = ({ sources }: InsightView): boolean =>
  sources.every(({ counts, before }) => [...Object.values(counts), ...Object.values(before)].every((one) => one === 0));

/** A day so many days ago, here, such as 2026-11-27. */
function dayBefore(days: number): string {
  const day = new Date();
  day.setDate(day.getDate() - days);
  const two = (figure: number) => String(figure).padStart(2, '0');
  return `${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

function Day({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string | undefined;
  onChange: (day: string) => void;
}) {
  return (
    <label className="flex items-center gap-1 text-sm">
      {label}
      <input
        type="date"
        className="input input-sm w-36"
        value={value ?? ''}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
