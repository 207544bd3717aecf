import { debounce, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useMemo } from 'react';
import { folded } from '../../../core/identity/index.ts';

/** A line of a list, as far as it is found and ordered by it. */
export interface EntryLine {
  id: string;
  name: string;
  folder: string;
  madeAt: string;
  hours: { count: number; held: number }[];
  state: string;
  archivedAt?: string | null;
}

export const ORDERS = ['name', 'newest', 'busiest'] as const;
export const ORDER_WORDS: Record<(typeof ORDERS)[number], string> = {
  name: 'By name',
  newest: 'Newest first',
  busiest: 'Busiest first',
};
export const ARCHIVED = 'archived';
/** Stands for those that are in no folder. */
export const NO_FOLDER = '-';

/** The folders of a list, by name. */
export const foldersOf = (lines: { folder: string }[]): string[] =>
  [...new Set(lines.map(({ folder }) => folder))].filter((name) => name !== '').sort();

const REST_MS = 150;

const busyness = ({ hours }: EntryLine): number => hours.reduce((sum, { count, held }) => sum + count + held, 0);

const COMPARE: Record<(typeof ORDERS)[number], (a: EntryLine, b: EntryLine) => number> = {
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
  newest: (a, b) => (a.madeAt < b.madeAt ? 1 : -1),
  busiest: (a, b) => busyness(b) - busyness(a),
};

/**
 * What of a list is looked at: found by every word of what is typed, in a folder, in a state, in an order; all of it in the URL. What is
 * archived is left out unless it is asked for, or open.
 * @param saysOf what else of a line it is found by
 */
export function useEntries<L extends EntryLine>(lines: L[], saysOf: (line: L) => string, openId = '') {
  const [filter, setFilter] = useQueryStates(
    {
      find: parseAsString.withDefault('').withOptions({ limitUrlUpdates: debounce(REST_MS) }),
      folder: parseAsString.withDefault(''),
      state: parseAsString.withDefault(''),
      order: parseAsStringLiteral(ORDERS).withDefault('name'),
    },
    // The links of the list take it along.
    { shallow: false },
  );
  const { find, folder, state, order } = filter;
  const shown = useMemo(() => {
    const words = folded(find).split(' ').filter(Boolean);
    const isAsked = (line: L) => {
      const isAway = (line.archivedAt ?? null) !== null;
      if (state === ARCHIVED ? !isAway : isAway && line.id !== openId) return false;
      if (state !== '' && state !== ARCHIVED && line.state !== state) return false;
      if (folder !== '' && line.folder !== (folder === NO_FOLDER ? '' : folder)) return false;
      const said = folded(`${line.name} ${line.folder} ${saysOf(line)}`);
      return words.every((word) => said.includes(word));
    };
    return lines.filter(isAsked).sort(COMPARE[order]);
  }, [lines, saysOf, openId, find, folder, state, order]);
  return { shown, filter, setFilter };
}
