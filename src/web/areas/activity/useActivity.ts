import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DeliveryView, Page, SubmissionRow, TrailView } from '../../../contract/activity.ts';
import type { Cause } from '../../../core/delivery/index.ts';
import { api } from '../../parts/api.ts';

const LIVE_MS = 3_000;
const UNFINISHED = new Set(['received', 'on its way', 'waiting']);

/** Pages of a list, one after the other, kept fresh. */
function usePages<Row>(key: string, path: string, filter: Record<string, string>) {
  const search = new URLSearchParams(filter).toString();
  return useInfiniteQuery({
    queryKey: [key, search],
    initialPageParam: '',
    queryFn: ({ pageParam }) =>
      api.get<Page<Row>>(`${path}?${search}${pageParam ? `&before=${encodeURIComponent(pageParam)}` : ''}`),
    getNextPageParam: (last) => last.next ?? undefined,
    refetchInterval: LIVE_MS,
    placeholderData: (before) => before,
  });
}

export const useSubmissions = (filter: Record<string, string>) =>
  usePages<SubmissionRow>('submissions', '/submissions', filter);
export const useDeliveries = (filter: Record<string, string>) =>
  usePages<DeliveryView>('deliveries', '/deliveries', filter);

export const useTrail = (id: string) =>
  useQuery({
    queryKey: ['trail', id],
    queryFn: () => api.get<TrailView>(`/submissions/${id}`),
    refetchInterval: ({ state }) => (state.data && UNFINISHED.has(state.data.progress) ? 1_500 : 10_000),
  });

export interface HeldGroup {
  cause: Cause;
  connectionId: string;
  connectionName: string;
  count: number;
}
export const useHeldGroups = () =>
  useQuery({ queryKey: ['held'], queryFn: () => api.get<HeldGroup[]>('/deliveries/held'), refetchInterval: LIVE_MS });

/** An action on something in the activity; everything that shows it is asked for anew. */
export function useAct() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ path, body }: { path: string; body?: unknown }) => api.post(path, body),
    onSettled: () =>
      Promise.all(
        ['trail', 'submissions', 'deliveries', 'held', 'status', 'overview', 'people'].map((key) =>
          queries.invalidateQueries({ queryKey: [key] }),
        ),
      ),
  });
}
