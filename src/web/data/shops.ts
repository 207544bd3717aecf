import { useMutation, useQuery } from '@tanstack/react-query';
import type { ShopChoice, ShopFinding, ShopView } from '../../contract/shops.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

/** The connections that are shops. */
export const useShopChoices = (wanted: boolean) =>
  useQuery({
    queryKey: keyOf('sources', 'shops'),
    queryFn: () => api.get<ShopChoice[]>('/sources/shops'),
    enabled: wanted,
  });

/** How a shop stands, by what is known here. */
export const useShop = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('shops', sourceId),
    queryFn: () => api.get<ShopView>(`/sources/${sourceId}/shop`),
    refetchInterval: 5_000,
  });

/** What the shop says when it is asked. @param key changes when it is to be asked anew */
export const useShopFindings = (sourceId: string, key: string) =>
  useQuery({
    queryKey: keyOf('shops', sourceId, 'findings', key),
    queryFn: () => api.get<ShopFinding[]>(`/sources/${sourceId}/shop/findings`),
    staleTime: 30_000,
  });

/** Has something done about a shop. */
export function useActOnShop(sourceId: string) {
  const refresh = useRefresh(['shops', 'sources', 'imports']);
  return useMutation({
    mutationFn: (act: 'listen' | 'check-out' | 'ask' | 'customers') => api.post(`/sources/${sourceId}/shop/${act}`, {}),
    onSettled: refresh,
  });
}
