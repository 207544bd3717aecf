import type { InfiniteData } from '@tanstack/react-query';
import type { Page } from '../../contract/pages.ts';

interface PagedQuery {
  data: InfiniteData<Page<unknown>> | undefined;
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => Promise<unknown>;
  isPending: boolean;
}

/** The end of a long list: more of it, or that it is loading. */
export function MoreRows({ query }: { query: PagedQuery }) {
  if (query.isPending)
    return (
      <p className="p-4 text-muted" role="status">
        Loading
      </p>
    );
  if (!query.hasNextPage) return null;
  const pages = query.data?.pages ?? [];
  const looked = pages.at(-1)?.looked;
  return (
    <div className="p-4 flex flex-col gap-2 items-start">
      {looked !== undefined && (
        <p className="text-muted text-sm" role="status">
          {pages.some(({ rows }) => rows.length > 0) ? 'These' : 'None'} so far: a part of all is looked through at a
          time.
        </p>
      )}
      <button className="btn btn-sm" onClick={() => void query.fetchNextPage()} disabled={query.isFetchingNextPage}>
        {query.isFetchingNextPage ? 'Loading' : looked === undefined ? 'Show more' : 'Look further'}
      </button>
    </div>
  );
}
