import { useState } from 'react';
import type { ImportView, ReadingInput } from '../../../../contract/imports.ts';
import { DELIMITERS, type Delimiter } from '../../../../core/tables/index.ts';
import type { Plain } from '../../../data/api.ts';
import { Labelled } from '../../../parts/Labelled.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';

interface ReadingFormProps {
  file: ImportView;
  disabled: boolean;
  onRead: (reading: Plain<ReadingInput>) => void;
}

/** Encodings that files come in; any other can be entered. */
const ENCODINGS = [
  'utf-8',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'iso-8859-2',
  'macintosh',
  'utf-16le',
  'shift_jis',
];
const SIGNS: Record<Delimiter, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** How a file is read, where it was judged wrongly: of text what parts its columns, of sheets which of them. */
export function ReadingForm({ file, disabled, onRead }: ReadingFormProps) {
  const { reading } = file;
  const [own, setOwn] = useState({
    encoding: reading?.encoding ?? 'utf-8',
    delimiter: reading?.delimiter ?? ',',
    header: reading?.header ?? true,
    sheet: reading?.sheet,
  });
  const isText = reading?.format === 'text';
  const sheets = reading?.sheets ?? [];
  return (
    <details className="mb-2">
      <summary className="cursor-pointer">Read it in another way</summary>
      <form
        className="flex flex-wrap gap-3 items-end mt-2"
        onSubmit={(event) => {
          event.preventDefault();
          onRead({ ...own, written: {} });
        }}
      >
        {sheets.length > 1 && (
          <Labelled label="Sheet">
            <select
              className="select select-sm w-auto max-w-60"
              value={own.sheet}
              onChange={({ target }) => setOwn({ ...own, sheet: target.value })}
            >
              {sheets.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </Labelled>
        )}
        {isText && (
          <>
            <Labelled label="Encoding">
              <input
                className="input input-sm w-40"
                list="encodings"
                value={own.encoding}
                onChange={({ target }) => setOwn({ ...own, encoding: target.value.trim() })}
              />
            </Labelled>
            <datalist id="encodings">
              {ENCODINGS.map((one) => (
                <option key={one} value={one} />
              ))}
            </datalist>
            <Labelled label="Between columns">
              <select
                className="select select-sm w-auto"
                value={own.delimiter}
                onChange={({ target }) => setOwn({ ...own, delimiter: target.value as Delimiter })}
              >
                {DELIMITERS.map((one) => (
                  <option key={one} value={one}>
                    {SIGNS[one]}
                  </option>
                ))}
              </select>
            </Labelled>
          </>
        )}
        <TickBox
          label="the first row names the columns"
          checked={own.header}
          onChange={(header) => setOwn({ ...own, header })}
        />
        <button className="btn btn-sm" disabled={disabled}>
          Read it so
        </button>
      </form>
    </details>
  );
}
