import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SessionView } from '../../contract/session.ts';
import { api, rememberCsrf } from './api.ts';

export interface SignInState {
  hasAccount: boolean;
  demo: { email: string; password: string } | null;
}

/** What the sign-in page has to know before anybody is signed in. */
export const useSignInState = () =>
  useQuery({ queryKey: ['session-state'], queryFn: () => api.get<SignInState>('/session/state') });

/** Who is signed in. */
export const useSession = () =>
  useQuery({
    queryKey: ['session'],
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
      queries.setQueryData(['session'], session);
    },
  });
}

export const useSignIn = () => useBeginSession<{ email: string; password: string }>('/session');
export const useFirstAccount = () =>
  useBeginSession<{ token: string; name: string; email: string; password: string }>('/session/first');

/** Ends the session, and forgets all that was shown in it. */
export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({ mutationFn: () => api.delete('/session'), onSuccess: () => queries.clear() });
}
