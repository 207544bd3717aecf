import { Download } from 'lucide-react';
import Papa from 'papaparse';
import { printOds } from '../../../core/formats/index.ts';

interface SaveTableProps {
  /** Of the file. */
  name: string;
  head: string[];
  rows: (string | number)[][];
}

/** Saves a table as CSV (RFC 4180), where what a programme for tables would take for a formula is marked as text, or as a spreadsheet. */
export function SaveTable({ name, head, rows }: SaveTableProps) {
  const save = (parts: BlobPart[], type: string, ending: string) => {
    const address = URL.createObjectURL(new Blob(parts, { type }));
    Object.assign(document.createElement('a'), { href: address, download: `${name}.${ending}` }).click();
    URL.revokeObjectURL(address);
  };
  const csv = () => {
    const text = Papa.unparse({ fields: head, data: rows }, { escapeFormulae: true });
    save(['\uFEFF', text], 'text/csv;charset=utf-8', 'csv');
  };
  const ods = () =>
    save([printOds(name, head, rows) as BlobPart], 'application/vnd.oasis.opendocument.spreadsheet', 'ods');
  return (
    <>
      <button className="btn btn-sm btn-ghost" onClick={csv}>
        <Download size={15} aria-hidden="true" /> Save as CSV
      </button>
      <button className="btn btn-sm btn-ghost" onClick={ods}>
        <Download size={15} aria-hidden="true" /> as ODS
      </button>
    </>
  );
}
