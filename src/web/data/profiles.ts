import { useMutation, useQuery } from '@tanstack/react-query';
import type { Profile } from '../../contract/profile/index.ts';
import type {
  CheckedProfileView,
  DescriptionInput,
  DescriptionView,
  TrialInput,
  TrialView,
} from '../../contract/profiles.ts';
import { api, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

export const useReadDescription = () =>
  useMutation({
    mutationFn: (input: Plain<DescriptionInput>) => api.post<DescriptionView>('/profiles/openapi', input),
  });
export const useReadCurl = () =>
  useMutation({ mutationFn: (line: string) => api.post<{ profile: Profile }>('/profiles/curl', { line }) });
export const useCheckProfile = () =>
  useMutation({ mutationFn: (document: unknown) => api.post<CheckedProfileView>('/profiles/check', { document }) });
export const useTryOperation = () =>
  useMutation({ mutationFn: (input: Plain<TrialInput>) => api.post<TrialView>('/profiles/try', input) });
export const useProfile = (id: string) =>
  useQuery({ queryKey: keyOf('profile', id), queryFn: () => api.get<Profile>(`/profiles/${id}`), enabled: id !== '' });

export function useSaveProfile() {
  const refresh = useRefresh(['profiles', 'profile', 'connections']);
  return useMutation({
    mutationFn: ({ document, replace }: { document: Profile; replace: boolean }) =>
      api.put<Profile>(`/profiles/${document.id}${replace ? '?replace=true' : ''}`, { document }),
    onSuccess: refresh,
  });
}
