import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RehearsalView, RouteView } from '../../../contract/route.ts';
import type { Visit } from '../../../core/intake/index.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { api } from '../../parts/api.ts';

export const useRoutes = () =>
  useQuery({ queryKey: ['routes'], queryFn: () => api.get<RouteView[]>('/routes'), refetchInterval: 10_000 });

export function useAddRoute() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (input: { name: string; sourceId: string }) => api.post<RouteView>('/routes', input),
    onSuccess: (route) => queries.setQueryData<RouteView[]>(['routes'], (before) => [...(before ?? []), route]),
  });
}

export function useSaveRoute(id: string) {
  const queries = useQueryClient();
  return async (document: RouteDocument) => {
    const saved = await api.put<RouteView>(`/routes/${id}/draft`, document);
    queries.setQueryData<RouteView[]>(['routes'], (before) => before?.map((one) => (one.id === id ? saved : one)));
  };
}

/** The plan that the saved draft makes of a sample, with all that is known of the person. */
export const useRehearsal = (
  route: RouteView,
  sample: { sourceId: string; values: FieldValues | null; visit: Visit },
) =>
  useQuery({
    queryKey: ['rehearsal', route.id, route.draftAt, sample],
    queryFn: () => api.post<RehearsalView>(`/routes/${route.id}/rehearsal`, sample),
    enabled: sample.values !== null,
    placeholderData: keepPreviousData,
  });
