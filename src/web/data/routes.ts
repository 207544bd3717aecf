import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RehearsalView, RouteView } from '../../contract/route.ts';
import type { Visit } from '../../core/intake/index.ts';
import type { RouteDocument } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import { api } from './api.ts';
import { useKeeping, type Keeping } from './keeping.ts';

export const useRoutes = () =>
  useQuery({ queryKey: ['routes'], queryFn: () => api.get<RouteView[]>('/routes'), refetchInterval: 10_000 });

export function useAddRoute() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (input: { name: string; sourceId: string }) => api.post<RouteView>('/routes', input),
    onSuccess: (route) => queries.setQueryData<RouteView[]>(['routes'], (before) => [...(before ?? []), route]),
  });
}

/** Where the draft of a route is kept. */
export const useKeepRoute = (id: string): Keeping<RouteDocument> => useKeeping('routes', id);

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
