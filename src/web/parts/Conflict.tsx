import { differences } from './differences.ts';
import type { Draft } from './useDraft.ts';

/** Somebody else changed the same document: what differs, and whose is taken. Nothing is lost until one is chosen. */
export function Conflict<Document>({ draft }: { draft: Draft<Document> }) {
  const { conflict, document } = draft;
  if (!conflict) return null;
  const differing = differences(document, conflict.theirs);
  return (
    <div role="alert" className="box p-3 mt-2">
      <p className="font-semibold">Somebody else changed this meanwhile. Yours is not saved yet.</p>
      <details>
        <summary className="cursor-pointer plain-link">
          See both: {differing.length} {differing.length === 1 ? 'part differs' : 'parts differ'}
        </summary>
        <table className="rows w-full mt-1">
          <thead>
            <tr>
              <th scope="col">Part</th>
              <th scope="col">Yours</th>
              <th scope="col">Theirs</th>
            </tr>
          </thead>
          <tbody>
            {differing.map(({ where, yours, theirs }) => (
              <tr key={where}>
                <td className="text-muted">{where}</td>
                <td className="break-words">{yours}</td>
                <td className="break-words">{theirs}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
      <div className="flex gap-2 mt-2">
        <button className="btn btn-sm" onClick={conflict.takeYours}>
          Take yours
        </button>
        <button className="btn btn-sm" onClick={conflict.takeTheirs}>
          Take theirs
        </button>
      </div>
      <p className="text-muted text-sm mt-1">Undo brings back what was here before.</p>
    </div>
  );
}
