import { Link } from 'react-router';
import type { InsightView, SourceInsight } from '../../../contract/insight.ts';
import type { Spans } from '../../../core/insight/index.ts';
import { figure, percent, timeSpan } from '../../parts/figures.ts';
import { linkTo } from './links.ts';
import { SaveTable } from './SaveTable.tsx';

const isTold = ({ opened, downloaded, reached, took, replied }: SourceInsight): boolean =>
  opened + downloaded + reached > 0 || took !== null || replied !== null;

const HEAD = [
  'Opened',
  'Half filled it in within',
  'Downloaded',
  'Came to the goal page',
  'Answered by colleagues',
  'Half of those within',
];

/** What is told beside the way from seeing to arriving: how long it took, what was fetched, how soon somebody answered. */
export function SpansTable({ view }: { view: InsightView }) {
  const rows = view.sources.filter(isTold);
  if (rows.length === 0) return null;
  return (
    <section aria-labelledby="spans">
      <div className="flex items-center gap-2 mb-2">
        <h2 id="spans" className="text-lg font-semibold">
          How long it took, and what followed
        </h2>
        <SaveTable
          name={`times ${view.from} to ${view.to}`}
          head={[
            'Source',
            'Opened',
            'Half filled it in within, seconds',
            'Downloaded',
            'Came to the goal page',
            'Answered by colleagues',
            'Half were answered within, seconds',
          ]}
          rows={rows.map(({ name, opened, took, downloaded, reached, replied }) => [
            name,
            opened,
            took?.half ?? '',
            downloaded,
            reached,
            replied?.count ?? 0,
            replied?.half ?? '',
          ])}
        />
      </div>
      <div className="overflow-x-auto">
        <table className="table table-sm">
          <thead className="text-muted">
            <tr>
              <th scope="col">Source</th>
              {HEAD.map((words) => (
                <th key={words} scope="col" className="text-right">
                  {words}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((source) => {
              const { id, name, counts, opened, took, downloaded, reached, replied } = source;
              return (
                <tr key={id}>
                  <th scope="row" className="font-normal">
                    {name}
                  </th>
                  <td className="text-right tabular-nums">{figure(opened)}</td>
                  <td className="text-right tabular-nums">
                    <Half spans={took} />
                  </td>
                  <td className="text-right tabular-nums">
                    {downloaded > 0 ? (
                      <Link className="plain-link" to={linkTo(view, 'downloaded', { source: id })}>
                        {figure(downloaded)}
                      </Link>
                    ) : (
                      figure(0)
                    )}
                  </td>
                  <td className="text-right tabular-nums">{figure(reached)}</td>
                  <td className="text-right tabular-nums">
                    {replied ? (
                      <Link className="plain-link" to={linkTo(view, 'replied', { source: id })}>
                        {figure(replied.count)}
                      </Link>
                    ) : (
                      figure(0)
                    )}
                    {replied && counts.completed > 0 && (
                      <span className="block text-muted text-xs">
                        {percent(Math.min(1, replied.count / counts.completed))} of completed
                      </span>
                    )}
                  </td>
                  <td className="text-right tabular-nums">
                    <Half spans={replied} />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="text-muted text-sm mt-2">
        Opened: by a click on the page, or on the form&rsquo;s own page. How long it took is told by our script, from
        the first that was entered. Answered: as colleagues note on the submission.
      </p>
    </section>
  );
}

function Half({ spans }: { spans: Spans | null }) {
  if (spans === null) return <span className="text-muted">Not measured</span>;
  return <>{spans.half === null ? 'more than a month' : timeSpan(spans.half)}</>;
}
