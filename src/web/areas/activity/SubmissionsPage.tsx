import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { PROGRESS } from '../../../contract/activity.ts';
import type { SourceView } from '../../../contract/source.ts';
import { api } from '../../parts/api.ts';
import { Filter } from '../../parts/Filter.tsx';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Failed } from '../../parts/States.tsx';
import { ActivityTabs } from './ActivityTabs.tsx';
import { SubmissionTable } from './SubmissionTable.tsx';
import { useSubmissions } from './useActivity.ts';

export function SubmissionsPage() {
  const [params, setParams] = useSearchParams();
  const submissions = useSubmissions(Object.fromEntries(params));
  const sources = useQuery({ queryKey: ['sources'], queryFn: () => api.get<SourceView[]>('/sources') });
  const rows = submissions.data?.pages.flatMap((page) => page.rows) ?? [];
  const choose = (name: string, value: string) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (value) next.set(name, value);
      else next.delete(name);
      return next;
    });
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <div className="flex-1 flex flex-wrap justify-end gap-2">
          <Filter label="Address or name" />
          <select
            className="select select-sm w-44"
            aria-label="Source"
            value={params.get('source') ?? ''}
            onChange={(event) => choose('source', event.target.value)}
          >
            <option value="">Every source</option>
            {sources.data?.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <select
            className="select select-sm w-44"
            aria-label="How far"
            value={params.get('progress') ?? ''}
            onChange={(event) => choose('progress', event.target.value)}
          >
            <option value="">However far</option>
            {PROGRESS.map((progress) => (
              <option key={progress}>{progress}</option>
            ))}
          </select>
        </div>
      </div>
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label="Submissions">
        {submissions.isError && !submissions.data ? (
          <Failed error={submissions.error} again={() => void submissions.refetch()} />
        ) : null}
        {submissions.data && rows.length === 0 ? (
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
