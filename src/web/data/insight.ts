import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { InsightView, SilenceView } from '../../contract/insight.ts';
import { api } from './api.ts';

/** What came in, from where, and what became of it. @param filter from, to, source, by and per, as far as they are chosen */
export const useInsight = (filter: Record<string, string>) => {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
  const query = new URLSearchParams({ ...filter, zone });
  return useQuery({
    queryKey: ['insight', query.toString()],
    queryFn: () => api.get<InsightView>(`/insight?${query.toString()}`),
    placeholderData: keepPreviousData,
    refetchInterval: 10_000,
  });
};

/** Why nothing comes of a source any more; its pages are visited for that. */
export const useSilence = (id: string) =>
  useQuery({
    queryKey: ['silence', id],
    queryFn: () => api.get<SilenceView>(`/sources/${id}/silence`),
    staleTime: 60_000,
  });
