import { useMutation, useQuery } from '@tanstack/react-query';
import type { NewTokenView, TokenInput, TokenView } from '../../contract/tokens.ts';
import { api, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

export const useTokens = () => useQuery({ queryKey: keyOf('tokens'), queryFn: () => api.get<TokenView[]>('/tokens') });

export function useMakeToken() {
  const refresh = useRefresh(['tokens']);
  return useMutation({
    mutationFn: (input: Plain<TokenInput>) => api.post<NewTokenView>('/tokens', input),
    onSuccess: refresh,
  });
}

export function useRemoveToken() {
  const refresh = useRefresh(['tokens']);
  return useMutation({
    mutationFn: (id: string) => api.delete(`/tokens/${id}`),
    onSettled: refresh,
  });
}
