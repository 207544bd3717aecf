import { Fragment, type KeyboardEvent } from 'react';
import { useQueryState } from 'nuqs';
import { applyMapping, type DestinationField, type MapLine, type Suggestion } from '../../../../core/mapping/index.ts';
import type { FieldValues, SourceField } from '../../../../core/values/index.ts';
import { useNow } from '../../../parts/useNow.ts';
import { useAskable } from '../../../parts/conditions/knowledge.ts';
import { LineEditor } from './LineEditor.tsx';
import { placeOfLine } from './lineEdits.ts';
import { LineRow } from './LineRow.tsx';

export interface MappingTableProps {
  /** Of which target it is: the line that is open stands in the URL. */
  targetId: string;
  destination: DestinationField[];
  lines: MapLine[];
  /** What could fill each field, whether something does or not. */
  suggestions: Suggestion[];
  fields: SourceField[];
  values: FieldValues;
  /** Whether somebody who is there can be looked for, so that a line can go by what is there already. */
  looks: boolean;
  onChange: (lines: MapLine[]) => void;
}

/**
 * One row a destination field, required first: what fills it, the steps on the way, and the result for the sample. One row at a
 * time opens beneath itself for editing. Alt and the up or down key move between rows.
 */
export function MappingTable({
  targetId,
  destination,
  lines,
  suggestions,
  fields,
  values,
  looks,
  onChange,
}: MappingTableProps) {
  const [open, setOpen] = useQueryState('line', { defaultValue: '' });
  const now = useNow();
  const askable = useAskable(fields);
  const facts = { values, now, fields: askable.all };
  const results = applyMapping(destination, lines, facts);
  const placeOf = (key: string) => placeOfLine(targetId, key);
  return (
    <div className="max-md:overflow-x-auto">
      <table className="rows lines w-full max-md:min-w-[40rem]" onKeyDownCapture={moveBetweenRows}>
        <thead>
          <tr>
            <th scope="col" className="w-[24%]">
              Field there <span className="font-normal">(* required)</span>
            </th>
            <th scope="col" className="w-[26%]">
              Filled from
            </th>
            <th scope="col" className="w-[24%]">
              Steps
            </th>
            <th scope="col">Result for the sample</th>
          </tr>
        </thead>
        <tbody>
          {results.map((result) => {
            const { key } = result.field;
            const isOpen = open === placeOf(key);
            const suggestion = suggestions.find(({ line }) => line.to === key);
            return (
              <Fragment key={key}>
                <LineRow
                  result={result}
                  fields={fields}
                  values={values}
                  lines={lines}
                  suggestion={suggestion}
                  isOpen={isOpen}
                  onOpen={(wanted) => void setOpen(wanted ? placeOf(key) : '')}
                  onChange={onChange}
                />
                {isOpen && result.line && (
                  <LineEditor
                    field={result.field}
                    line={result.line}
                    suggestion={suggestion}
                    fields={fields}
                    facts={facts}
                    lines={lines}
                    looks={looks}
                    onChange={onChange}
                  />
                )}
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function moveBetweenRows(event: KeyboardEvent<HTMLTableElement>): void {
  const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  if (!event.altKey || by === 0) return;
  const origins = [...event.currentTarget.querySelectorAll<HTMLInputElement>('[data-control="origin"]')];
  const rows = origins.map((origin) => origin.closest('tr'));
  const own = (event.target as HTMLElement).closest('tr');
  const at = rows.indexOf(
    own?.dataset.editor === undefined ? own : (own.previousElementSibling as HTMLTableRowElement),
  );
  event.preventDefault();
  // The field itself would open its choices.
  event.stopPropagation();
  origins[Math.min(origins.length - 1, Math.max(0, at + by))]?.focus();
}
