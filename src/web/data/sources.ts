import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ShownPage } from '../../contract/shownPage.ts';
import type { PageInstallation } from '../../contract/installation.ts';
import type {
  SampleView,
  SetAsideView,
  SourceVersionView,
  SourceView,
  VariantsView,
  WaysView,
} from '../../contract/source.ts';
import type { MadeDocument, MadeKind } from '../../core/intake/index.ts';
import type { KnownSample } from '../../core/plan/index.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { useKeeping, type Keeping } from './keeping.ts';

export const useSources = () =>
  useQuery({ queryKey: ['sources'], queryFn: () => api.get<SourceView[]>('/sources'), refetchInterval: 10_000 });
export const useSamples = (sourceId: string) =>
  useQuery({
    queryKey: ['samples', sourceId],
    queryFn: () => api.get<SampleView[]>(`/sources/${sourceId}/samples`),
    enabled: sourceId !== '',
  });

/** How many took which way through a form. */
export const useWays = (sourceId: string, wanted: boolean) =>
  useQuery({
    queryKey: ['ways', sourceId],
    queryFn: () => api.get<WaysView>(`/sources/${sourceId}/ways`),
    enabled: wanted,
    refetchInterval: 30_000,
  });

/** What a source set aside this month. */
export const useSetAside = (sourceId: string) =>
  useQuery({
    queryKey: ['set-aside', sourceId],
    queryFn: () => api.get<SetAsideView>(`/sources/${sourceId}/set-aside`),
  });

/** How the variants of a form do; null where none are live. */
export const useVariants = (sourceId: string) =>
  useQuery({
    queryKey: ['variants', sourceId],
    queryFn: () => api.get<VariantsView | null>(`/sources/${sourceId}/variants`),
    refetchInterval: 30_000,
  });

/** Many samples at once, each with what is known of the person. */
export const useKnownSamples = (sourceId: string, wanted: boolean) =>
  useQuery({
    queryKey: ['samples', sourceId, 'known'],
    queryFn: () => api.get<KnownSample[]>(`/sources/${sourceId}/known-samples`),
    enabled: sourceId !== '' && wanted,
    staleTime: 60_000,
  });

export function useAddSource() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({
      live = false,
      ...input
    }: {
      name: string;
      kind: MadeKind;
      start?: string;
      live?: boolean;
    }) => {
      const made = await api.post<SourceView>('/sources', input);
      return live ? api.post<SourceView>(`/sources/${made.id}/publish`) : made;
    },
    onSuccess: (source) => queries.setQueryData<SourceView[]>(['sources'], (before) => [...(before ?? []), source]),
  });
}

/** Makes another source like one. */
export function useDuplicateSource(id: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => api.post<SourceView>(`/sources/${id}/duplicate`),
    onSuccess: (source) => queries.setQueryData<SourceView[]>(['sources'], (before) => [...(before ?? []), source]),
  });
}

/** Puts a source aside, takes it out again, or says when its draft goes live. */
export function useSourceFate(id: string) {
  const refresh = useRefresh(['sources', 'routes', 'overview', 'changes']);
  return useMutation({
    mutationFn: (what: 'archive' | 'restore' | { at: number | null }) =>
      typeof what === 'string'
        ? api.post<SourceView>(`/sources/${id}/${what}`)
        : api.post<SourceView>(`/sources/${id}/schedule`, what),
    onSettled: refresh,
  });
}

/** What was published of a source, the newest first. */
export const useSourceVersions = (id: string) =>
  useQuery({
    queryKey: ['sources', id, 'versions'],
    queryFn: () => api.get<SourceVersionView[]>(`/sources/${id}/versions`),
  });

/** A published version; it never changes. */
export const useSourceVersion = (id: string, version: number | null) =>
  useQuery({
    queryKey: ['sources', id, 'versions', version],
    queryFn: () => api.get<MadeDocument>(`/sources/${id}/versions/${version}`),
    enabled: version !== null,
    staleTime: Infinity,
  });

/** The pages on which a form was met lately. */
export const usePagesOf = (id: string) =>
  useQuery({ queryKey: ['pages-of', id], queryFn: () => api.get<string[]>(`/sources/${id}/pages`) });

/** A page of the web as it can be shown beside a form that is worked on. */
export const useShowPage = () =>
  useMutation({ mutationFn: (url: string) => api.post<ShownPage>('/sources/shown-page', { url }) });

/** What is found of a form on pages. */
export const useInstallation = (id: string) =>
  useMutation({
    mutationFn: (pages: string[]) => api.post<PageInstallation[]>(`/sources/${id}/installation`, { pages }),
  });

/** Where the draft of a source is kept. */
export const useKeepSource = (id: string): Keeping<MadeDocument> => useKeeping('sources', id);
