import { useMutation, useQuery } from '@tanstack/react-query';
import type { ArrivalRow, ArrivalView, SecretView, ShapeView } from '../../contract/webhook.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

const OFTEN_MS = 4_000;

/** What came to an address for programs, the newest first. */
export const useArrivals = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('arrivals', sourceId),
    queryFn: () => api.get<ArrivalRow[]>(`/sources/${sourceId}/arrivals`),
    refetchInterval: OFTEN_MS,
  });

export const useArrival = (sourceId: string, id: string) =>
  useQuery({
    queryKey: keyOf('arrivals', sourceId, id),
    queryFn: () => api.get<ArrivalView>(`/sources/${sourceId}/arrivals/${id}`),
    enabled: id !== '',
  });

/** What was learnt of the payloads that came. @param draftAt since its paths are the draft's, it changes with it */
export const useShape = (sourceId: string, draftAt: string) =>
  useQuery({
    queryKey: keyOf('shape', sourceId, draftAt),
    queryFn: () => api.get<ShapeView>(`/sources/${sourceId}/shape`),
    refetchInterval: OFTEN_MS,
    placeholderData: (before) => before,
  });

/** Has something taken that came before. */
export function useSendAgain(sourceId: string) {
  const refresh = useRefresh(['arrivals', 'shape']);
  return useMutation({
    mutationFn: (id: string) => api.post<{ submissions: string[] }>(`/sources/${sourceId}/arrivals/${id}/again`, {}),
    onSuccess: refresh,
  });
}

/** Sets the secret of an address, or has one made. */
export function useSetSecret(sourceId: string) {
  const refresh = useRefresh(['arrivals', 'shape']);
  return useMutation({
    mutationFn: (input: { secret: string; keepsFormer: boolean }) =>
      api.put<SecretView>(`/sources/${sourceId}/secret`, input),
    // It is shown this once, whatever else has to be asked for anew.
    onSuccess: () => void refresh(),
  });
}

export function useEndFormerSecret(sourceId: string) {
  const refresh = useRefresh(['arrivals', 'shape']);
  return useMutation({
    mutationFn: () => api.delete(`/sources/${sourceId}/secret/former`),
    onSettled: refresh,
  });
}
