import { Filter } from '../Filter.tsx';
import { wordOfAny, type Stateful } from '../StateMark.tsx';
import { ARCHIVED, foldersOf, NO_FOLDER, ORDER_WORDS, ORDERS, type EntryLine, type useEntries } from './useEntries.ts';

interface EntryFilterProps {
  lines: EntryLine[];
  entries: Pick<ReturnType<typeof useEntries>, 'filter' | 'setFilter' | 'shown'>;
  what: string;
  /** Of what the lines have a state. */
  stateOf: Stateful;
}

/** What of a list is looked at: by what is typed, by folder, by state; and in which order. */
export function EntryFilter({ lines, entries: { filter, setFilter, shown }, what, stateOf }: EntryFilterProps) {
  const { find, folder, state, order } = filter;
  const folders = foldersOf(lines);
  const states = [...new Set(lines.map((line) => line.state))].sort();
  const isAnyArchived = lines.some(({ archivedAt }) => (archivedAt ?? null) !== null);
  const isNarrowed = find !== '' || folder !== '' || state !== '';
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Filter name="find" label={`Find ${what}`} />
      {folders.length > 0 && (
        <select
          className="select select-sm flex-1 min-w-24 max-w-40"
          aria-label="Folder"
          value={folder}
          onChange={({ target }) => void setFilter({ folder: target.value || null })}
        >
          <option value="">All folders</option>
          {folders.map((name) => (
            <option key={name} value={name}>
              {name} ({lines.filter((line) => line.folder === name).length})
            </option>
          ))}
          <option value={NO_FOLDER}>In no folder</option>
        </select>
      )}
      {(states.length > 1 || isAnyArchived) && (
        <select
          className="select select-sm flex-1 min-w-24 max-w-40"
          aria-label="State"
          value={state}
          onChange={({ target }) => void setFilter({ state: target.value || null })}
        >
          <option value="">Any state</option>
          {states.map((one) => (
            <option key={one} value={one}>
              {wordOfAny(stateOf, one)}
            </option>
          ))}
          {isAnyArchived && <option value={ARCHIVED}>archived</option>}
        </select>
      )}
      <select
        className="select select-sm flex-1 min-w-28 max-w-40"
        aria-label="Order"
        value={order}
        onChange={({ target }) => void setFilter({ order: target.value as typeof order })}
      >
        {ORDERS.map((one) => (
          <option key={one} value={one}>
            {ORDER_WORDS[one]}
          </option>
        ))}
      </select>
      {isNarrowed && (
        <p role="status" className="text-muted text-sm">
          {shown.length} of {lines.length}{' '}
          <button className="plain-link" onClick={() => void setFilter({ find: null, folder: null, state: null })}>
            Show all
          </button>
        </p>
      )}
    </div>
  );
}
