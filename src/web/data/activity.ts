import { useMutation, useQuery } from '@tanstack/react-query';
import type { BulkInput, BulkView, DeliveryView, HeldGroupView } from '../../contract/deliveries.ts';
import type { SubmissionRow, TrailView } from '../../contract/submissions.ts';
import type { ChangeView } from '../../contract/changes.ts';
import { api, type Plain } from './api.ts';
import { useLongList } from './longList.ts';
import { useRefresh } from './refresh.ts';
import { keyOf, type Subject } from './keys.ts';

const LIVE_MS = 3_000;
const UNFINISHED = new Set(['received', 'on its way', 'waiting']);

export const useSubmissions = (filter: Record<string, string>) =>
  useLongList<SubmissionRow>('submissions', '/submissions', filter, LIVE_MS);
export const useDeliveries = (filter: Record<string, string>) =>
  useLongList<DeliveryView>('deliveries', '/deliveries', filter, LIVE_MS);

export const useChanges = (filter: Record<string, string>) =>
  useLongList<ChangeView>('changes', '/changes', filter, LIVE_MS);

export const useTrail = (id: string) =>
  useQuery({
    queryKey: keyOf('trail', id),
    queryFn: () => api.get<TrailView>(`/submissions/${id}`),
    refetchInterval: ({ state }) => (state.data && UNFINISHED.has(state.data.progress) ? 1_500 : 10_000),
  });

export const useHeldGroups = () =>
  useQuery({
    queryKey: keyOf('held'),
    queryFn: () => api.get<HeldGroupView[]>('/deliveries/held'),
    refetchInterval: LIVE_MS,
  });

/** Does one thing to a whole held group, part by part, telling how far it has come. */
export function useBulk(onProgress: (done: number) => void) {
  const refresh = useRefresh(SHOWING);
  return useMutation({
    mutationFn: async (input: Omit<Plain<BulkInput>, 'after'>) => {
      const total: BulkView = { done: 0, stayed: [], next: null };
      do {
        const part: BulkView = await api.post('/deliveries/held', { ...input, after: total.next });
        total.done += part.done;
        total.stayed.push(...part.stayed);
        total.next = part.next;
        onProgress(total.done);
      } while (total.next !== null);
      return total;
    },
    onSettled: refresh,
  });
}

/** What shows the activity, and is asked for anew after an action. */
const SHOWING: Subject[] = [
  'trail',
  'submissions',
  'deliveries',
  'held',
  'status',
  'overview',
  'people',
  'connections',
  'set-aside',
];

/** An action on something in the activity; everything that shows it is asked for anew. */
export function useAct() {
  const refresh = useRefresh(SHOWING);
  return useMutation({
    mutationFn: ({ path, body }: { path: string; body?: unknown }) => api.post(path, body),
    onSettled: refresh,
  });
}
