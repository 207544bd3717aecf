import type { QuestionShown } from '../shown.ts';

/** Rows of a list that a form shows at least. */
const ROWS = 3;

/** A small table to fill in: a row each record, a column each of its values. */
export function Rows({ shown, columns }: { shown: QuestionShown; columns: string[] }) {
  const { field, sent, say } = shown;
  const typed = recordsIn(sent[0] ?? '');
  const count = Math.max(ROWS, typed.length);
  const textAt = (row: number, column: string): string => {
    const value = typed[row]?.[column];
    return value === undefined ? '' : typeof value === 'string' ? value : JSON.stringify(value);
  };
  return (
    <table>
      <tbody>
        <tr>
          {columns.map((column) => (
            <th key={column} scope="col" dir="auto">
              {column}
            </th>
          ))}
        </tr>
        {Array.from({ length: count }, (_, row) => (
          <tr key={row}>
            {columns.map((column, at) => (
              <td key={column}>
                <input
                  type="text"
                  name={`${field.key}.${row}.${at}`}
                  defaultValue={textAt(row, column)}
                  aria-label={say('row', { column, row: row + 1 })}
                  required={field.required && row === 0}
                />
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function recordsIn(text: string): Record<string, unknown>[] {
  try {
    const read: unknown = JSON.parse(text);
    return Array.isArray(read) ? (read as Record<string, unknown>[]) : [];
  } catch {
    return [];
  }
}
