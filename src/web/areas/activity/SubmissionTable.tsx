import { Link } from 'react-router';
import { progressWord, type SubmissionRow } from '../../../contract/submissions.ts';
import { LongBody } from '../../parts/LongBody.tsx';
import { moveInList } from '../../parts/keys.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';

interface SubmissionTableProps {
  rows: SubmissionRow[];
  /** All are one person's, who stands above; then who it was is not said again. */
  ofOnePerson?: boolean;
}

export function SubmissionTable({ rows, ofOnePerson = false }: SubmissionTableProps) {
  const columns = [...(ofOnePerson ? [] : ['Person', 'Name']), 'Source', 'Received', 'Progress'];
  return (
    <table className="rows w-full" aria-rowcount={rows.length + 1} onKeyDown={moveInList}>
      <thead>
        <tr>
          {columns.map((column) => (
            <th key={column} scope="col">
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <LongBody rows={rows} keyOf={({ id }) => id} columns={columns.length}>
        {({ id, email, phone, name, sourceName, receivedAt, repeats, ...row }) => {
          const link = (text: string) => (
            <Link data-row to={`/activity/${id}`} className="plain-link whitespace-nowrap">
              {text}
            </Link>
          );
          return (
            <>
              {!ofOnePerson && <td>{link(email || phone || 'nobody known')}</td>}
              {!ofOnePerson && <td>{name}</td>}
              <td>{ofOnePerson ? link(sourceName) : sourceName}</td>
              <td>
                <Time at={receivedAt} />
                {repeats > 0 && <span className="text-muted"> · came {repeats + 1} times</span>}
              </td>
              <td>
                <StateMark of="submission" state={progressWord(row)} />
              </td>
            </>
          );
        }}
      </LongBody>
    </table>
  );
}
