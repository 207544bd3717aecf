import { useMutation, useQuery } from '@tanstack/react-query';
import type { PurposeDraft } from '../../core/consent/index.ts';
import type { PurposeView } from '../../contract/purposes.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf, type Subject } from './keys.ts';

export const usePurposes = () =>
  useQuery({ queryKey: keyOf('purposes'), queryFn: () => api.get<PurposeView[]>('/purposes') });

/** What shows purposes, or judges by them. */
const SHOWING: Subject[] = ['purposes', 'routes', 'changes'];

function usePurposeAct<Input>(act: (input: Input) => Promise<PurposeView>) {
  const refresh = useRefresh(SHOWING);
  return useMutation({
    mutationFn: act,
    onSettled: refresh,
  });
}

export const useAddPurpose = () => usePurposeAct((input: PurposeDraft) => api.post<PurposeView>('/purposes', input));

/** Saves a purpose, unless somebody else changed it meanwhile. */
export const useChangePurpose = () =>
  usePurposeAct(({ purpose, input }: { purpose: PurposeView; input: PurposeDraft }) =>
    api.putRevision<PurposeView>(`/purposes/${purpose.id}`, input, purpose.updatedAt),
  );

export const useArchivePurpose = () =>
  usePurposeAct(({ id, archived }: { id: string; archived: boolean }) =>
    api.post<PurposeView>(`/purposes/${id}/${archived ? 'restore' : 'archive'}`),
  );
