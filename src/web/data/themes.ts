import { useMutation, useQuery } from '@tanstack/react-query';
import type { ThemeView } from '../../contract/themes.ts';
import type { Look } from '../../core/forms/index.ts';
import type { FoundLook } from '../../core/formats/index.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf, type Subject } from './keys.ts';

export const useThemes = () => useQuery({ queryKey: keyOf('themes'), queryFn: () => api.get<ThemeView[]>('/themes') });

/** What shows themes, or looks as they say. */
const SHOWING: Subject[] = ['themes', 'sources', 'changes'];

/** Makes a theme, or changes one. @param id null for a new one */
export function useKeepTheme() {
  const refresh = useRefresh(SHOWING);
  return useMutation({
    mutationFn: ({ id, ...theme }: { id: string | null; name: string; look: Look }) =>
      id === null ? api.post<ThemeView>('/themes', theme) : api.put<ThemeView>(`/themes/${id}`, theme),
    onSettled: refresh,
  });
}

export function useRemoveTheme() {
  const refresh = useRefresh(SHOWING);
  return useMutation({ mutationFn: (id: string) => api.delete(`/themes/${id}`), onSettled: refresh });
}

/** A look by a page of the web, or by CSS. */
export const useFindLook = () =>
  useMutation({ mutationFn: (from: { css: string; url: string }) => api.post<FoundLook>('/themes/found', from) });
