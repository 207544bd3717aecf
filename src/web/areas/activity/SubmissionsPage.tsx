import { Link, useSearchParams } from 'react-router';
import { DEVICES, PROGRESS } from '../../../contract/submissions.ts';
import { useSourceLines } from '../../data/sources.ts';
import { Filter } from '../../parts/Filter.tsx';
import { FilterSelect, inWords } from '../../parts/FilterSelect.tsx';
import { Narrowed } from '../../parts/Narrowed.tsx';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Failed } from '../../parts/States.tsx';
import { ActivityTabs } from './ActivityTabs.tsx';
import { SubmissionTable } from './SubmissionTable.tsx';
import { useSubmissions } from '../../data/activity.ts';

export function SubmissionsPage() {
  const [params] = useSearchParams();
  const submissions = useSubmissions(Object.fromEntries(params));
  const sources = useSourceLines();
  const rows = submissions.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <div className="flex-1 flex flex-wrap justify-end gap-2">
          <Filter label="Address or name" />
          <Filter name="page" label="Page" slash={false} />
          <Filter name="campaign" label="Campaign" slash={false} />
          <FilterSelect name="device" label="Device" every="Any device" options={inWords(DEVICES)} />
          <FilterSelect name="source" label="Source" every="Every source" options={sources.data} />
          <FilterSelect name="progress" label="Progress" every="Any progress" options={inWords(PROGRESS)} />
        </div>
      </div>
      <CountedAs />
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label="Submissions">
        {submissions.isError && !submissions.data ? (
          <Failed error={submissions.error} again={() => void submissions.refetch()} />
        ) : null}
        {submissions.data && rows.length === 0 && !submissions.hasNextPage ? (
          params.size > 0 ? (
            <Empty
              title="Nothing matches"
              action={
                <Link to="/activity" className="btn btn-sm">
                  Show everything
                </Link>
              }
            >
              No submission is like that.
            </Empty>
          ) : (
            <Empty
              title="Nothing has arrived yet"
              action={
                <Link to="/sources" className="btn btn-sm btn-primary">
                  To the sources
                </Link>
              }
            >
              Each time a visitor hands something over, it stands here with all that came of it. Publish a form, then
              fill it in as a visitor would.
            </Empty>
          )
        ) : (
          <SubmissionTable rows={rows} />
        )}
        <MoreRows query={submissions} />
      </div>
    </div>
  );
}

const DAY = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });

/** Which figure of Insight the list is of, with a way back to all. */
function CountedAs() {
  const [params] = useSearchParams();
  const [from, to] = [Number(params.get('from')), Number(params.get('to'))];
  const reached = params.get('reached');
  if (!from && !to && !reached) return null;
  const value = params.get('value');
  return (
    <Narrowed by={['from', 'to', 'reached', 'by', 'value', 'notices']}>
      {reached ? `Those that were ${reached}` : 'Those'}
      {from > 0 && ` from ${DAY.format(from)}`}
      {to > 0 && ` to ${DAY.format(to - 1)}`}
      {value && (params.get('by') === 'variant' ? ', of one variant' : ` (${value})`)}
      {params.get('notices') === 'without' && ', without what services tell us'}
    </Narrowed>
  );
}
