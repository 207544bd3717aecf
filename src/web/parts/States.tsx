import { RotateCcw, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import type { UseQueryResult } from '@tanstack/react-query';
import { saying } from '../data/api.ts';

/** Loading, failed or there: what every view shows while it asks the server. */
export function Loaded<T>({ query, children }: { query: UseQueryResult<T>; children: (data: T) => ReactNode }) {
  if (query.data !== undefined) return <>{children(query.data)}</>;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  return (
    <div className="p-6 text-muted" role="status">
      <span className="loading loading-dots loading-sm mr-2" aria-hidden="true" />
      Loading
    </div>
  );
}

export function Failed({ error, again }: { error: unknown; again?: () => void }) {
  return (
    <div className="m-4 box p-4 flex items-start gap-3" role="alert">
      <TriangleAlert size={18} className="text-error shrink-0 mt-0.5" aria-hidden="true" />
      <div>
        <p>{saying(error)}</p>
        {again && (
          <button className="btn btn-sm mt-2" onClick={again}>
            <RotateCcw size={14} aria-hidden="true" /> Try again
          </button>
        )}
      </div>
    </div>
  );
}

/** An empty list teaches: what it is for, and the one thing to do. */
export function Empty({ title, children, action }: { title: string; children: ReactNode; action?: ReactNode }) {
  return (
    <div className="m-6 max-w-xl">
      <h2 className="text-lg font-semibold">{title}</h2>
      <div className="text-muted mt-1 mb-4">{children}</div>
      {action}
    </div>
  );
}

/** What went wrong with an action, beside the button that was pressed. */
export function ActionError({ error }: { error: unknown }) {
  return error ? (
    <p role="alert" className="text-error font-semibold">
      {saying(error)}
    </p>
  ) : null;
}
