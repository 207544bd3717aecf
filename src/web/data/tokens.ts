import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { NewTokenView, TokenInput, TokenView } from '../../contract/tokens.ts';
import { api } from './api.ts';

export const useTokens = () => useQuery({ queryKey: ['tokens'], queryFn: () => api.get<TokenView[]>('/tokens') });

export function useMakeToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (input: Pick<TokenInput, keyof TokenInput>) => api.post<NewTokenView>('/tokens', input),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['tokens'] }),
  });
}

export function useRemoveToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api.delete(`/tokens/${id}`),
    onSettled: () => queries.invalidateQueries({ queryKey: ['tokens'] }),
  });
}
