import { useMutation } from '@tanstack/react-query';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';

/** Publish, pause and resume of a source or a route. */
export function usePublishing(kind: 'sources' | 'routes', id: string) {
  const refresh = useRefresh(['sources', 'routes', 'overview', 'samples']);
  return useMutation({
    mutationFn: (action: 'publish' | 'pause' | 'resume') => api.post(`/${kind}/${id}/${action}`),
    // Publishing a source changes what its routes may do, and the other way round.
    onSettled: refresh,
  });
}
