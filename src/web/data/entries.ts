import { useMutation, useQuery } from '@tanstack/react-query';
import type { EntryInput, DeletionImpactView } from '../../contract/entries.ts';
import { api, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

/** The lists of an installation, as the addresses of its API and interface call them. */
export type Entries = 'sources' | 'routes' | 'connections';

/** Names an entry, and puts it into a folder. */
export function useNameEntry(entries: Entries, id: string) {
  const refresh = useRefresh([entries, 'overview', 'changes']);
  return useMutation({
    mutationFn: (input: Plain<EntryInput>) => api.put(`/${entries}/${id}/name`, input),
    onSettled: refresh,
  });
}

/** Makes another one like it. */
export function useCopyEntry(entries: 'sources' | 'routes', id: string) {
  const refresh = useRefresh([entries]);
  return useMutation({
    mutationFn: () => api.post<{ id: string }>(`/${entries}/${id}/duplicate`),
    onSettled: refresh,
  });
}

/** Puts an entry aside, takes it out again, or deletes it. */
export function useEntryFate(entries: 'sources' | 'routes', id: string) {
  const refresh = useRefresh(['sources', 'routes', 'overview', 'changes']);
  return useMutation({
    mutationFn: (what: 'archive' | 'restore' | 'delete') =>
      what === 'delete' ? api.delete(`/${entries}/${id}`) : api.post(`/${entries}/${id}/${what}`),
    onSettled: refresh,
  });
}

/** What stops when an entry is deleted. */
export const useStops = (entries: 'sources' | 'routes', id: string, wanted: boolean) =>
  useQuery({
    queryKey: keyOf(entries, 'one', id, 'stops'),
    queryFn: () => api.get<DeletionImpactView>(`/${entries}/${id}/stops`),
    enabled: wanted,
  });
