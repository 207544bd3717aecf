import { useMutation, useQueries, useQuery } from '@tanstack/react-query';
import type { ConnectionLine } from '../../contract/entries.ts';
import type { NoticeView } from '../../contract/people.ts';
import type {
  ConnectionInput,
  ConnectionView,
  MadeView,
  MakingInput,
  ProfileView,
  VerifyResult,
} from '../../contract/connection.ts';
import { api, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

export const useConnections = () =>
  useQuery({
    queryKey: keyOf('connections', 'all'),
    queryFn: () => api.get<ConnectionView[]>('/connections'),
    // While the first message of a service is awaited, it is looked for more often.
    refetchInterval: ({ state: { data } }) =>
      data?.some(({ notices }) => notices?.on && !notices.provenAt) ? 1_500 : 10_000,
  });
/** Connections as their list shows them. */
export const useConnectionLines = () =>
  useQuery({
    queryKey: keyOf('connections', 'lines'),
    queryFn: () => api.get<ConnectionLine[]>('/connections/lines'),
    refetchInterval: 10_000,
  });
export const useProfiles = () =>
  useQuery({ queryKey: keyOf('profiles'), queryFn: () => api.get<ProfileView[]>('/connections/profiles') });
export const useTryConnection = () =>
  useMutation({ mutationFn: (input: Plain<ConnectionInput>) => api.post<VerifyResult>('/connections/try', input) });

function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  // What routes are found to lack depends on what connections offer.
  const refresh = useRefresh(['connections', 'routes']);
  return useMutation({ mutationFn: change, onSettled: refresh });
}

/** Adds a connection. @returns it; where it cannot be listened to, that is said on its page */
export const useAddConnection = () =>
  useChange(async ({ listen, ...input }: Plain<ConnectionInput> & { listen: boolean }) => {
    const made = await api.post<ConnectionView>('/connections', input);
    if (listen) await api.post(`/connections/${made.id}/notices`).catch(() => null);
    return made;
  });
export const useChangeConnection = (id: string) =>
  useChange((input: Plain<ConnectionInput>) => api.put<ConnectionView>(`/connections/${id}`, input));
/** Verify, pause or resume. */
export const useConnectionAct = (id: string) =>
  useChange((act: 'verify' | 'pause' | 'resume') => api.post<ConnectionView>(`/connections/${id}/${act}`));
export const useRemoveConnection = (id: string) => useChange(() => api.delete(`/connections/${id}?anyway=true`));
export const useMake = (id: string) =>
  useChange((making: Plain<MakingInput>) =>
    api.post<{ id: string; connection: ConnectionView }>(`/connections/${id}/make`, making),
  );
export const useMakeAll = (id: string) =>
  useChange((makings: Plain<MakingInput>[]) => api.post<MadeView>(`/connections/${id}/make-all`, { makings }));
/** What a service told us, newest first. */
export const useNotices = (id: string) =>
  useQuery({
    queryKey: keyOf('connections', id, 'notices'),
    queryFn: () => api.get<NoticeView[]>(`/connections/${id}/notices`),
    refetchInterval: 10_000,
  });
/** While somebody maps to them, what connections offer is fetched anew every few minutes, and what hangs on it is shown. */
export function useOffersAnew(ids: string[]) {
  const refresh = useRefresh(['connections', 'routes']);
  useQueries({
    queries: ids.map((id) => ({
      queryKey: keyOf('offers', id),
      queryFn: async () => {
        const { fetched } = await api.post<{ fetched: boolean }>(`/connections/${id}/offers`);
        if (fetched) await refresh();
        return fetched;
      },
      staleTime: OFFERS_MS,
      refetchInterval: OFFERS_MS,
      retry: false,
    })),
  });
}
const OFFERS_MS = 3 * 60_000;

/** Has the service tell us what happens there, or no more. */
export const useTelling = (id: string) =>
  useChange(async (on: boolean) => {
    if (on) await api.post<ConnectionView>(`/connections/${id}/notices`);
    else await api.delete(`/connections/${id}/notices`);
  });
/** Goes to the other system's own window, in which access is granted. */
export const useGrant = () =>
  useMutation({
    mutationFn: async (id: string) => {
      const { url } = await api.post<{ url: string }>(`/connections/${id}/grant`);
      window.location.assign(url);
    },
  });
