import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api } from './api.ts';

/** Publish, pause and resume of a source or a route. */
export function usePublishing(kind: 'sources' | 'routes', id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (action: 'publish' | 'pause' | 'resume') => api.post(`/${kind}/${id}/${action}`),
    // Publishing a source changes what its routes may do, and the other way round.
    onSettled: () =>
      Promise.all(
        ['sources', 'routes', 'overview', 'samples'].map((key) => queries.invalidateQueries({ queryKey: [key] })),
      ),
  });
}
