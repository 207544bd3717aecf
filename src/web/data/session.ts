import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { NewPassword, OpenSessionView, SessionView } from '../../contract/session.ts';
import { api, rememberCsrf, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

export interface SignInState {
  hasAccount: boolean;
  demo: { email: string; password: string } | null;
}

/** What the sign-in page has to know before anybody is signed in. */
export const useSignInState = () =>
  useQuery({ queryKey: keyOf('session-state'), queryFn: () => api.get<SignInState>('/session/state') });

/** Who is signed in. */
export const useSession = () =>
  useQuery({
    queryKey: keyOf('session'),
    queryFn: async () => {
      const view = await api.get<SessionView>('/session');
      rememberCsrf(view.csrf);
      return view;
    },
    staleTime: 60_000,
  });

function useBeginSession<Input>(path: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (input: Input) => api.post<SessionView>(path, input),
    onSuccess: (session) => {
      rememberCsrf(session.csrf);
      queries.setQueryData(keyOf('session'), session);
    },
  });
}

export const useSignIn = () => useBeginSession<{ email: string; password: string }>('/session');
export const useFirstAccount = () =>
  useBeginSession<{ token: string; name: string; email: string; password: string }>('/session/first');

/** Where whoever is signed in here is signed in. */
export const useOpenSessions = () =>
  useQuery({ queryKey: keyOf('open-sessions'), queryFn: () => api.get<OpenSessionView[]>('/session/all') });

/** Signs out at one browser, or at all others. */
export function useEndSessions() {
  const refresh = useRefresh(['open-sessions']);
  return useMutation({
    mutationFn: (which: { id: string } | 'others') =>
      api.delete(which === 'others' ? '/session/others' : `/session/all/${which.id}`),
    onSettled: refresh,
  });
}

export function useChangePassword() {
  const refresh = useRefresh(['open-sessions']);
  return useMutation({
    mutationFn: (input: Plain<NewPassword>) => api.put<{ ended: number }>('/session/password', input),
    onSuccess: refresh,
  });
}

/** Ends the session, and forgets all that was shown in it. */
export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({ mutationFn: () => api.delete('/session'), onSuccess: () => queries.clear() });
}
