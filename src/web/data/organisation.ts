import { useMutation, useQuery } from '@tanstack/react-query';
import type { OrganisationView } from '../../contract/organisation.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

export const useOrganisation = () =>
  useQuery({ queryKey: keyOf('organisation'), queryFn: () => api.get<OrganisationView>('/organisation') });

/** Says by which names people know whoever asks; routes are judged by them. */
export function useNameOrganisation() {
  const refresh = useRefresh(['organisation', 'routes', 'changes']);
  return useMutation({
    mutationFn: (input: OrganisationView) => api.put<OrganisationView>('/organisation', input),
    onSettled: refresh,
  });
}
