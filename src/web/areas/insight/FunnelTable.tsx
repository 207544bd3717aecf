import { ArrowDown, ArrowUp } from 'lucide-react';
import { Link } from 'react-router';
import type { Counts, InsightView, SourceInsight } from '../../../contract/insight.ts';
import { FUNNEL, intervalOf, shareOf, type FunnelStep } from '../../../core/insight/index.ts';
import { Time } from '../../parts/Time.tsx';
import { figure, percent } from '../../parts/figures.ts';
import { linkTo } from './links.ts';
import { WhySilent } from './WhySilent.tsx';
import { SaveTable } from './SaveTable.tsx';

export const STEP_WORDS: Record<FunnelStep, string> = {
  shown: 'Shown',
  started: 'Started',
  completed: 'Completed',
  confirmed: 'Confirmed',
  delivered: 'Delivered',
};

/** How far people came at each source, beside the period before. */
export function FunnelTable({ view }: { view: InsightView }) {
  const rows = view.sources.filter(({ counts, before, silence }) => silence || sumOf(counts) + sumOf(before) > 0);
  return (
    <section aria-labelledby="funnel">
      <div className="flex items-center gap-2 mb-2">
        <h2 id="funnel" className="text-lg font-semibold">
          From seeing a form to arriving
        </h2>
        <SaveTable
          name={`sources ${view.from} to ${view.to}`}
          head={[
            'Source',
            ...FUNNEL.map((step) => STEP_WORDS[step]),
            ...FUNNEL.map((step) => `${STEP_WORDS[step]} before`),
          ]}
          rows={rows.map(({ name, counts, before }) => [
            name,
            ...FUNNEL.map((step) => counts[step]),
            ...FUNNEL.map((step) => before[step]),
          ])}
        />
      </div>
      <div className="overflow-x-auto">
        <table className="table table-sm">
          <thead className="text-muted">
            <tr>
              <th scope="col">Source</th>
              {FUNNEL.map((step) => (
                <th key={step} scope="col" className="text-right">
                  {STEP_WORDS[step]}
                </th>
              ))}
              <th scope="col" className="text-right">
                Completed of shown
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((source) => (
              <Row key={source.id} view={view} source={source} />
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-muted text-sm mt-2">
        Shown and started are told by our script on the page; without it, and by visitors who ask not to be followed,
        they are not counted. Delivered: to at least one destination, also where nobody has to confirm. Small figures:
        in as many days before.
      </p>
    </section>
  );
}

const sumOf = (counts: Counts): number => Object.values(counts).reduce((sum, one) => sum + one, 0);

function Row({ view, source }: { view: InsightView; source: SourceInsight }) {
  const { id, name, counts, before, silence } = source;
  return (
    <tr>
      <th scope="row" className="font-normal">
        <Link className="plain-link" to={`/sources/${id}`}>
          {name}
        </Link>
        {silence && (
          <>
            <p className="text-error text-sm">
              Nothing since <Time at={new Date(silence.since).toISOString()} />; usually{' '}
              {silence.usualADay < 1 ? 'less than one' : figure(silence.usualADay)} a day.
            </p>
            <WhySilent id={id} />
          </>
        )}
      </th>
      {FUNNEL.map((step) => {
        const isUntold = (step === 'shown' || step === 'started') && counts.shown + before.shown === 0;
        return (
          <td key={step} className="text-right tabular-nums align-top">
            {isUntold ? (
              <span className="text-muted">Not measured</span>
            ) : step === 'shown' || step === 'started' ? (
              figure(counts[step])
            ) : (
              <Link className="plain-link" to={linkTo(view, step, { source: id })}>
                {figure(counts[step])}
              </Link>
            )}
            {!isUntold && <Change now={counts[step]} before={before[step]} />}
          </td>
        );
      })}
      <td className="text-right tabular-nums align-top">
        <Rate counts={counts} />
      </td>
    </tr>
  );
}

function Change({ now, before }: { now: number; before: number }) {
  if (now === before) return <span className="block text-muted text-xs">No change</span>;
  const Arrow = now > before ? ArrowUp : ArrowDown;
  return (
    <span className="block text-muted text-xs">
      <Arrow size={11} className="inline" aria-label={now > before ? 'up from' : 'down from'} /> {figure(before)}
    </span>
  );
}

/** Of those who saw it, how many sent it, and how sure that is. */
export function Rate({ counts: { shown, completed } }: { counts: Pick<Counts, 'shown' | 'completed'> }) {
  // More were sent than seen where not every page has the script: then the share says nothing.
  const share = completed > shown ? null : shareOf(completed, shown);
  const interval = share === null ? null : intervalOf(completed, shown);
  if (share === null || interval === null) return <span className="text-muted">No data</span>;
  return (
    <>
      {percent(share)}
      <span className="block text-muted text-xs" title="Where the true share lies, with 95 % confidence">
        {percent(interval[0])} to {percent(interval[1])}
      </span>
    </>
  );
}
