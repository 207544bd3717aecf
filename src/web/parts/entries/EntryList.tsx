import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import { Link } from 'react-router';
import { moveInList } from '../keys.ts';
import type { Stateful } from '../StateMark.tsx';
import { EntryFilter } from './EntryFilter.tsx';
import { useEntries, type EntryLine } from './useEntries.ts';

/** A line as it is where its name does not wrap, in pixels. */
const LINE_HEIGHT = 74;
/** Lines beyond what is seen, so that arrow keys always find the next one. */
const AROUND = 8;

interface EntryListProps<L extends EntryLine> {
  title: string;
  /** What is found in it, such as "a source". */
  what: string;
  /** Of what its lines have a state. */
  stateOf: Stateful;
  lines: L[];
  openId: string;
  /** The address of one. */
  to: (id: string) => string;
  /** What else of a line it is found by. */
  saysOf: (line: L) => string;
  /** What can be done beside the title. */
  actions: ReactNode;
  /** What a line says below its name. */
  children: (line: L) => ReactNode;
  /** What can be done with one as a whole. */
  more: (line: L) => ReactNode;
  below?: ReactNode;
}

/** A list beside the thing that is open: found by typing, kept in folders; only the lines in view are in the document. */
export function EntryList<L extends EntryLine>(props: EntryListProps<L>) {
  const { title, what, stateOf, lines, openId, to, saysOf, actions, children, more, below } = props;
  const entries = useEntries(lines, saysOf, openId);
  const { shown, filter } = entries;
  const kept = keptSearch(filter);
  const list = useRef<HTMLUListElement>(null);
  // The compiler leaves this component alone, as it says; nothing that the virtualizer gives is handed on.
  // eslint-disable-next-line react-hooks/incompatible-library
  const virtual = useVirtualizer({
    count: shown.length,
    estimateSize: () => LINE_HEIGHT,
    getItemKey: (index) => shown[index]?.id ?? index,
    getScrollElement: () => list.current?.parentElement ?? null,
    overscan: AROUND,
  });
  const at = shown.findIndex(({ id }) => id === openId);
  const isFar = useRef(true);
  useEffect(() => {
    // Once: whoever comes by a link sees where they are.
    if (isFar.current && at > 0) virtual.scrollToIndex(at, { align: 'center' });
    isFar.current = false;
  }, [at, virtual]);
  return (
    <div className="h-full flex flex-col" onKeyDown={moveInList}>
      <div className="p-3 flex flex-col gap-2 border-b border-base-300">
        <div className="flex items-center justify-between">
          <h1 className="font-semibold text-lg">{title}</h1>
          <span className="flex items-center gap-1">{actions}</span>
        </div>
        {lines.length > 1 && <EntryFilter lines={lines} entries={entries} what={what} stateOf={stateOf} />}
      </div>
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label={`${title}, the list`}>
        {shown.length === 0 && <p className="p-3 text-muted">Nothing matches.</p>}
        <ul ref={list} className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map(({ index, key, start }) => {
            const line = shown[index];
            return (
              line && (
                <li
                  key={key}
                  ref={virtual.measureElement}
                  data-index={index}
                  aria-setsize={shown.length}
                  aria-posinset={index + 1}
                  style={{ transform: `translateY(${start}px)` }}
                  className={`absolute inset-x-0 top-0 border-b border-base-300 ${line.id === openId ? 'bg-base-200' : ''}`}
                >
                  <Link
                    data-row
                    to={{ pathname: to(line.id), search: kept }}
                    aria-current={line.id === openId ? 'page' : undefined}
                    className="block pl-3 pr-10 py-2.5 hover:bg-base-200"
                  >
                    {children(line)}
                  </Link>
                  <span className="absolute right-1 top-1">{more(line)}</span>
                </li>
              )
            );
          })}
        </ul>
        {below}
      </div>
    </div>
  );
}

/** What is looked at of the list, as a query: it stays while another one is opened. */
function keptSearch({ order, ...narrowed }: ReturnType<typeof useEntries>['filter']): string {
  const kept = new URLSearchParams(Object.entries(narrowed).filter(([, value]) => value !== ''));
  if (order !== 'name') kept.set('order', order);
  return kept.size > 0 ? `?${kept.toString()}` : '';
}
