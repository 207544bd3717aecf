import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactNode } from 'react';

/** A row as it is where its text does not wrap, in pixels. */
const ROW_HEIGHT = 36;
/** Rows beyond what is seen, so that arrow keys always find the next one. */
const AROUND = 20;

interface LongBodyProps<Row> {
  rows: Row[];
  keyOf: (row: Row) => string;
  columns: number;
  /** The cells of a row. */
  children: (row: Row) => ReactNode;
}

/** The body of a long table. Only the rows in view, and some around, are in the document; the rest is room. */
export function LongBody<Row>({ rows, keyOf, columns, children }: LongBodyProps<Row>) {
  const body = useRef<HTMLTableSectionElement>(null);
  // The compiler leaves this component alone, as it says; nothing that the virtualizer gives is handed on.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: rows.length,
    estimateSize: () => ROW_HEIGHT,
    getItemKey: (index) => (rows[index] === undefined ? index : keyOf(rows[index])),
    getScrollElement: () => body.current?.closest<HTMLElement>('[role="region"]') ?? null,
    overscan: AROUND,
  });
  const shown = virtual.getVirtualItems();
  const before = shown[0]?.start ?? 0;
  const after = virtual.getTotalSize() - (shown.at(-1)?.end ?? 0);
  return (
    <tbody ref={body}>
      <Room height={before} columns={columns} />
      {shown.map(({ index, key }) => {
        const row = rows[index];
        return row === undefined ? null : (
          // The heading is the first row of a table (WAI-ARIA 1.2, aria-rowindex).
          <tr key={key} ref={virtual.measureElement} data-index={index} data-link aria-rowindex={index + 2}>
            {children(row)}
          </tr>
        );
      })}
      <Room height={after} columns={columns} />
    </tbody>
  );
}

function Room({ height, columns }: { height: number; columns: number }) {
  return height <= 0 ? null : (
    <tr aria-hidden="true">
      <td colSpan={columns} style={{ height, padding: 0 }} />
    </tr>
  );
}
