import type { ImportView } from '../../../../contract/imports.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { withFieldsFor, type FileDocument } from '../../../../core/intake/index.ts';
import { pathToColumn, WRITTEN, type InferredColumn, type Written } from '../../../../core/tables/index.ts';
import { useActOnImport, useImportRows, useImports } from '../../../data/imports.ts';
import { percent } from '../../../parts/figures.ts';
import { ActionError } from '../../../parts/States.tsx';
import { FieldsPart } from '../FieldsPart.tsx';
import { ReadingForm } from './ReadingForm.tsx';

interface FilePartsProps {
  source: SourceView;
  document: FileDocument;
  set: (part: Partial<FileDocument>) => void;
  about: (pointer: string) => string | undefined;
  liveIds: string[];
}

/** Files whose rows are people: what stands in their columns, and which fields are taken out of them. */
export function FileParts({ source, document, set, about, liveIds }: FilePartsProps) {
  const imports = useImports(source.id);
  const newest = imports.data?.find(({ reading }) => reading !== null);
  return (
    <div className="p-5 flex flex-col gap-7">
      {newest ? (
        <Columns source={source} file={newest} document={document} set={set} />
      ) : (
        <p className="text-muted max-w-prose">
          Bring a file first, on the right: CSV or another text in columns, lines of JSON, a workbook, an OpenDocument
          spreadsheet, or cards of people. It is looked through, and its columns stand here. Nothing is sent by that.
        </p>
      )}
      <FieldsPart of="row" document={document} set={set} about={about} liveIds={liveIds} />
    </div>
  );
}

interface ColumnsProps {
  source: SourceView;
  file: ImportView;
  document: FileDocument;
  set: (part: Partial<FileDocument>) => void;
}

function Columns({ source, file, document, set }: ColumnsProps) {
  const act = useActOnImport(source.id, file.id);
  const taken = new Set(document.fields.flatMap(({ path, key }) => [path, path === '' ? `$.${key}` : path]));
  const take = (columns: InferredColumn[]) =>
    set({
      fields: withFieldsFor(
        document.fields,
        columns.map(({ name, type }) => ({ path: pathToColumn(name), type })),
      ),
    });
  const free = file.columns.filter(({ name, filled }) => filled > 0 && !taken.has(pathToColumn(name)));
  const { reading } = file;
  const say = (name: string, written: Written) =>
    reading && act.mutate({ act: 'reading', reading: { ...reading, written: { ...file.written, [name]: written } } });
  const canSay = file.state === 'ready' || file.state === 'unreadable';
  return (
    <section aria-labelledby="columns">
      <h3 id="columns" className="text-lg font-semibold">
        Columns of {file.name}
      </h3>
      <p className="text-muted mb-2">
        {reading?.because} Judged over all {file.total} rows.
      </p>
      {reading && ['text', 'workbook', 'spreadsheet'].includes(reading.format) && (
        <ReadingForm
          key={`${file.id} ${reading.sheet ?? ''}`}
          file={file}
          disabled={!canSay || act.isPending}
          onRead={(one) => act.mutate({ act: 'reading', reading: one })}
        />
      )}
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Columns found">
        <table className="rows w-full text-sm">
          <thead>
            <tr>
              <th scope="col">Column</th>
              <th scope="col">Holds</th>
              <th scope="col">Filled</th>
              <th scope="col">
                <span className="sr-only">Take it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {file.columns.map((column) => (
              <tr key={column.name}>
                <td>
                  <span className="font-semibold">{column.name}</span>
                  <span className="block text-muted break-words">{column.examples.join(' · ')}</span>
                </td>
                <td>
                  {column.type}{' '}
                  {column.type === 'date' || column.type === 'number' ? (
                    <select
                      className="select select-sm w-auto"
                      aria-label={`How ${column.name} is written`}
                      value={file.written[column.name] ?? 'as it is'}
                      disabled={!canSay || act.isPending}
                      onChange={({ target }) => say(column.name, target.value as Written)}
                    >
                      {WRITTEN.filter((one) => column.type === 'date' || !one.endsWith('first'))
                        .filter((one) => column.type === 'number' || !one.startsWith('decimal'))
                        .map((one) => (
                          <option key={one}>{one}</option>
                        ))}
                    </select>
                  ) : null}
                  <span className="block text-muted">{column.because}</span>
                  {column.misfits.length > 0 && (
                    <span className="block text-warning">
                      Not like that:{' '}
                      {column.misfits
                        .slice(0, 3)
                        .map(({ row, value }) => `row ${row} “${value}”`)
                        .join(', ')}
                    </span>
                  )}
                </td>
                <td className="whitespace-nowrap">{percent(file.total === 0 ? 0 : column.filled / file.total)}</td>
                <td className="text-right">
                  {taken.has(pathToColumn(column.name)) ? (
                    <span className="text-muted whitespace-nowrap">a field</span>
                  ) : (
                    <button
                      type="button"
                      className="btn btn-xs"
                      aria-label={`Take ${column.name} as a field`}
                      onClick={() => take([column])}
                    >
                      Take
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {free.length > 1 && (
        <button type="button" className="btn btn-sm mt-2" onClick={() => take(free)}>
          Take all {free.length} that are left
        </button>
      )}
      <ActionError error={act.error} />
      <FirstRows sourceId={source.id} file={file} />
    </section>
  );
}

function FirstRows({ sourceId, file }: { sourceId: string; file: ImportView }) {
  const rows = useImportRows(sourceId, file.id, JSON.stringify(file.reading));
  if (!rows.data) return null;
  return (
    <details className="mt-3">
      <summary className="cursor-pointer">The first rows, as they are read</summary>
      <div className="overflow-x-auto mt-2" tabIndex={0} role="region" aria-label="First rows">
        <table className="rows text-sm">
          <thead>
            <tr>
              <th scope="col">Row</th>
              {rows.data.columns.map((name) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.data.rows.map(({ number, cells }) => (
              <tr key={number}>
                <td>{number}</td>
                {rows.data.columns.map((name) => (
                  <td key={name} className="max-w-60 break-words">
                    {cells[name] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  );
}
