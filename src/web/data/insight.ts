import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import type { InsightView, SilenceView } from '../../contract/insight.ts';
import type { SiteKind } from '../../core/insight/index.ts';
import { useRefresh } from './refresh.ts';
import { api } from './api.ts';
import { keyOf } from './keys.ts';

/** What came in, from where, and what became of it. @param filter from, to, source, by and per, as far as they are chosen */
export const useInsight = (filter: Record<string, string>) => {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const query = new URLSearchParams({ ...filter, zone });
  return useQuery({
    queryKey: keyOf('insight', query.toString()),
    queryFn: () => api.get<InsightView>(`/insight?${query.toString()}`),
    placeholderData: keepPreviousData,
    refetchInterval: 10_000,
  });
};

/** Why nothing comes of a source any more; its pages are visited for that. */
export const useSilence = (id: string) =>
  useQuery({
    queryKey: keyOf('silence', id),
    queryFn: () => api.get<SilenceView>(`/sources/${id}/silence`),
    staleTime: 60_000,
  });

/** Says what a site is that visitors come from. */
export function useSaySite() {
  const refresh = useRefresh(['insight']);
  return useMutation({
    mutationFn: (input: { host: string; kind: SiteKind | null }) => api.put('/insight/sites', input),
    onSettled: refresh,
  });
}
