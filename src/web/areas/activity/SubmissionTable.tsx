import { Link } from 'react-router';
import type { SubmissionRow } from '../../../contract/activity.ts';
import { moveInList } from '../../parts/keys.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';

export function SubmissionTable({ rows }: { rows: SubmissionRow[] }) {
  return (
    <table className="rows w-full" onKeyDown={moveInList}>
      <thead>
        <tr>
          <th scope="col">Person</th>
          <th scope="col">Name</th>
          <th scope="col">Source</th>
          <th scope="col">Received</th>
          <th scope="col">How far</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, email, name, sourceName, receivedAt, progress, repeats }) => (
          <tr key={id} data-link>
            <td>
              <Link data-row to={`/activity/${id}`} className="plain-link whitespace-nowrap">
                {email || 'no address'}
              </Link>
            </td>
            <td>{name}</td>
            <td>{sourceName}</td>
            <td>
              <Time at={receivedAt} />
              {repeats > 0 && <span className="text-quiet"> · came {repeats + 1} times</span>}
            </td>
            <td>
              <StateMark state={progress} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
