import { useInfiniteQuery, useQuery, useQueryClient, type InfiniteData } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Page } from '../../contract/pages.ts';
import { api } from './api.ts';
import { keyOf, type Subject } from './keys.ts';

interface Row {
  id: string;
}

/** Whether somebody has read on. */
const isLong = (data: InfiniteData<unknown> | undefined): boolean => (data?.pages.length ?? 0) > 1;

/**
 * Pages of a list, one after the other, kept fresh: while there is one it is fetched anew; of a longer list only its head is, however
 * far somebody has read.
 * @param everyMs how often
 */
export function useLongList<R extends Row>(
  key: Subject,
  path: string,
  filter: Record<string, string>,
  everyMs: number,
) {
  const queries = useQueryClient();
  const search = new URLSearchParams(filter).toString();
  const fetchPage = (from: string) =>
    api.get<Page<R>>(`${path}?${search}${from ? `&before=${encodeURIComponent(from)}` : ''}`);
  const list = useInfiniteQuery({
    queryKey: keyOf(key, search),
    initialPageParam: '',
    queryFn: ({ pageParam }) => fetchPage(pageParam),
    getNextPageParam: (last) => last.next ?? undefined,
    refetchInterval: ({ state }) => (isLong(state.data) ? false : everyMs),
    // What is long is not fetched as a whole because a window was left and came back.
    refetchOnWindowFocus: ({ state }) => !isLong(state.data),
    placeholderData: (before) => before,
  });
  const head = useQuery({
    queryKey: keyOf(key, search, 'head'),
    queryFn: () => fetchPage(''),
    enabled: isLong(list.data),
    refetchInterval: everyMs,
  });
  useEffect(() => {
    const fresh = head.data;
    if (!fresh) return;
    queries.setQueryData<InfiniteData<Page<R>>>(keyOf(key, search), (before) =>
      before && isLong(before) ? { ...before, pages: withHead(before.pages, fresh.rows) } : before,
    );
  }, [head.data, queries, key, search]);
  return list;
}

/** Pages with their newest rows as they are now: what is new stands first, what is known is as it was found. */
export function withHead<R extends Row>(pages: Page<R>[], head: R[]): Page<R>[] {
  const fresh = new Set(head.map(({ id }) => id));
  return pages.map((page, at) => {
    const others = page.rows.filter(({ id }) => !fresh.has(id));
    return { ...page, rows: at === 0 ? [...head, ...others] : others };
  });
}
