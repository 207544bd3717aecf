interface PagedQuery {
  hasNextPage: boolean;
  isFetchingNextPage: boolean;
  fetchNextPage: () => Promise<unknown>;
  isPending: boolean;
}

/** The end of a long list: more of it, or that it is loading. */
export function MoreRows({ query }: { query: PagedQuery }) {
  if (query.isPending)
    return (
      <p className="p-4 text-quiet" role="status">
        Loading
      </p>
    );
  if (!query.hasNextPage) return null;
  return (
    <div className="p-4">
      <button className="btn btn-sm" onClick={() => void query.fetchNextPage()} disabled={query.isFetchingNextPage}>
        {query.isFetchingNextPage ? 'Loading' : 'Show more'}
      </button>
    </div>
  );
}
