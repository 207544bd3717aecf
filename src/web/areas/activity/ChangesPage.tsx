import { Link, useSearchParams } from 'react-router';
import { ACTS, SUBJECT_KINDS, SUBJECTS, type ChangeView } from '../../../contract/changes.ts';
import { FilterSelect } from '../../parts/FilterSelect.tsx';
import { LongBody } from '../../parts/LongBody.tsx';
import { moveInList } from '../../parts/keys.ts';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Failed } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { ActivityTabs } from './ActivityTabs.tsx';
import { useChanges } from '../../data/activity.ts';

const KINDS = SUBJECT_KINDS.map((kind) => ({ id: kind, name: SUBJECTS[kind].replace(/^(the|a) /, '') }));

/** Who did what here, and when. */
export function ChangesPage() {
  const [params] = useSearchParams();
  const changes = useChanges(Object.fromEntries(params));
  const rows = changes.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <div className="flex-1 flex flex-wrap justify-end gap-2">
          <FilterSelect name="kind" label="Of what" every="Anything" options={KINDS} />
        </div>
      </div>
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label="Changes">
        {changes.isError && !changes.data ? (
          <Failed error={changes.error} again={() => void changes.refetch()} />
        ) : null}
        {changes.data && rows.length === 0 ? (
          <Empty
            title={params.size > 0 ? 'Nothing matches' : 'Nothing was changed yet'}
            action={
              params.size > 0 ? (
                <Link to="/activity/changes" className="btn btn-sm">
                  Show everything
                </Link>
              ) : null
            }
          >
            Whatever people or programs do here stands in this list: publishing, pausing, repairing, new access.
          </Empty>
        ) : (
          <ChangeTable rows={rows} />
        )}
        <MoreRows query={changes} />
      </div>
    </div>
  );
}

function ChangeTable({ rows }: { rows: ChangeView[] }) {
  return (
    <table className="rows w-full" aria-rowcount={rows.length + 1} onKeyDown={moveInList}>
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Who</th>
          <th scope="col">What</th>
          <th scope="col">Details</th>
        </tr>
      </thead>
      <LongBody rows={rows} keyOf={({ id }) => id} columns={4}>
        {({ at, actor, act, subject, detail }) => (
          <>
            <td className="whitespace-nowrap">
              <Time at={at} />
            </td>
            <td className="whitespace-nowrap">
              {actor.name}
              {actor.kind === 'token' && <span className="text-muted"> (a token)</span>}
            </td>
            <td>
              {ACTS[act]} {subject.name === '' ? null : `${SUBJECTS[subject.kind]} `}
              <Subject subject={subject} />
            </td>
            <td className="text-muted">{detail}</td>
          </>
        )}
      </LongBody>
    </table>
  );
}

function Subject({ subject: { kind, name, link } }: Pick<ChangeView, 'subject'>) {
  const text = name === '' ? SUBJECTS[kind] : name;
  return link === '' ? (
    <span>{text}</span>
  ) : (
    <Link data-row to={link} className="plain-link">
      {text}
    </Link>
  );
}
