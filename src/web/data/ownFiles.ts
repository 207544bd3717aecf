import { keyOf } from './keys.ts';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { OwnFileView } from '../../contract/ownFiles.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';

const KEY = keyOf('own-files');

/** Pictures and other files of the organisation's own. */
export const useOwnFiles = () => useQuery({ queryKey: KEY, queryFn: () => api.get<OwnFileView[]>('/own-files') });

export function useAddOwnFile() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ file, name }: { file: Blob; name: string }) => api.upload<OwnFileView>('/own-files', file, name),
    onSuccess: (view) => queries.setQueryData<OwnFileView[]>(KEY, (before) => [view, ...(before ?? [])]),
  });
}

export function useRemoveOwnFile() {
  const refresh = useRefresh(['own-files', 'changes']);
  return useMutation({ mutationFn: (id: string) => api.delete(`/own-files/${id}`), onSettled: refresh });
}
