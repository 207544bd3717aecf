import { Download } from 'lucide-react';
import Papa from 'papaparse';

interface SaveTableProps {
  /** Of the file. */
  name: string;
  head: string[];
  rows: (string | number)[][];
}

/** Saves a table as CSV (RFC 4180). What a programme for tables would take for a formula is marked as text. */
export function SaveTable({ name, head, rows }: SaveTableProps) {
  const save = () => {
    const text = Papa.unparse({ fields: head, data: rows }, { escapeFormulae: true });
    const address = URL.createObjectURL(new Blob(['\uFEFF', text], { type: 'text/csv;charset=utf-8' }));
    Object.assign(document.createElement('a'), { href: address, download: `${name}.csv` }).click();
    URL.revokeObjectURL(address);
  };
  return (
    <button className="btn btn-sm btn-ghost" onClick={save}>
      <Download size={15} aria-hidden="true" /> Save as CSV
    </button>
  );
}
