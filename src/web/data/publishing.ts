import { useMutation } from '@tanstack/react-query';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';

/** Words of which somebody says that people agree to a purpose by them. */
export interface Agreed {
  purpose: string;
  wording: string;
}

/** What is done with a source or a route as a whole; published with words that are decided on as it is, or though it leads nowhere. */
export type Publishing = 'publish' | 'pause' | 'resume' | { agreed?: Agreed[]; anyway?: boolean };

/** Publish, pause and resume of a source or a route. */
export function usePublishing(kind: 'sources' | 'routes', id: string) {
  const refresh = useRefresh(['sources', 'routes', 'overview', 'samples']);
  return useMutation({
    mutationFn: (action: Publishing) =>
      typeof action === 'string' ? api.post(`/${kind}/${id}/${action}`) : api.post(`/${kind}/${id}/publish`, action),
    // Publishing a source changes what its routes may do, and the other way round.
    onSettled: refresh,
  });
}
