import { Link } from 'react-router';
import type { SubmissionRow } from '../../../contract/activity.ts';
import { moveInList } from '../../parts/keys.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';

interface SubmissionTableProps {
  rows: SubmissionRow[];
  /** All are one person's, who stands above; then who it was is not said again. */
  ofOnePerson?: boolean;
}

export function SubmissionTable({ rows, ofOnePerson = false }: SubmissionTableProps) {
  const columns = [...(ofOnePerson ? [] : ['Person', 'Name']), 'Source', 'Received', 'How far'];
  return (
    <table className="rows w-full" onKeyDown={moveInList}>
      <thead>
        <tr>
          {columns.map((column) => (
            <th key={column} scope="col">
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, email, phone, name, sourceName, receivedAt, progress, repeats }) => {
          const link = (text: string) => (
            <Link data-row to={`/activity/${id}`} className="plain-link whitespace-nowrap">
              {text}
            </Link>
          );
          return (
            <tr key={id} data-link>
              {!ofOnePerson && <td>{link(email || phone || 'nobody known')}</td>}
              {!ofOnePerson && <td>{name}</td>}
              <td>{ofOnePerson ? link(sourceName) : sourceName}</td>
              <td>
                <Time at={receivedAt} />
                {repeats > 0 && <span className="text-quiet"> · came {repeats + 1} times</span>}
              </td>
              <td>
                <StateMark state={progress} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
