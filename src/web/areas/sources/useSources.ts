import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SampleView, SourceView } from '../../../contract/source.ts';
import type { SourceKind } from '../../../core/intake/index.ts';
import { api } from '../../parts/api.ts';

export const useSources = () =>
  useQuery({ queryKey: ['sources'], queryFn: () => api.get<SourceView[]>('/sources'), refetchInterval: 10_000 });
export const useSamples = (sourceId: string) =>
  useQuery({
    queryKey: ['samples', sourceId],
    queryFn: () => api.get<SampleView[]>(`/sources/${sourceId}/samples`),
    enabled: sourceId !== '',
  });

export function useAddSource() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (input: { name: string; kind: SourceKind }) => api.post<SourceView>('/sources', input),
    onSuccess: (source) => queries.setQueryData<SourceView[]>(['sources'], (before) => [...(before ?? []), source]),
  });
}
