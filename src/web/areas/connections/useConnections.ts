import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ConnectionInput, ConnectionView, VerifyResult } from '../../../contract/connection.ts';
import { api } from '../../parts/api.ts';

type Plain<T> = Pick<T, keyof T>;

export interface ProfileView {
  id: string;
  name: string;
  purpose: string;
  keyHelp: string;
  baseUrlHelp: string;
}

export const useConnections = () =>
  useQuery({
    queryKey: ['connections'],
    queryFn: () => api.get<ConnectionView[]>('/connections'),
    refetchInterval: 10_000,
  });
export const useProfiles = () =>
  useQuery({
    queryKey: ['profiles'],
    queryFn: () => api.get<ProfileView[]>('/connections/profiles'),
    staleTime: Infinity,
  });
export const useTryConnection = () =>
  useMutation({ mutationFn: (input: Plain<ConnectionInput>) => api.post<VerifyResult>('/connections/try', input) });

function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const queries = useQueryClient();
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries({ queryKey: ['connections'] }) });
}

export const useAddConnection = () =>
  useChange((input: Plain<ConnectionInput>) => api.post<ConnectionView>('/connections', input));
export const useChangeConnection = (id: string) =>
  useChange((input: Plain<ConnectionInput>) => api.put<ConnectionView>(`/connections/${id}`, input));
export const useVerifyConnection = (id: string) =>
  useChange(() => api.post<ConnectionView>(`/connections/${id}/verify`));
export const useRemoveConnection = (id: string) => useChange(() => api.delete(`/connections/${id}`));
