import type { NewWords } from '../../core/plan/index.ts';
import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ShownPage } from '../../contract/shownPage.ts';
import type { SourceLine } from '../../contract/entries.ts';
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
import { useDraftStore, type DraftStore } from './draftStore.ts';
import { keyOf } from './keys.ts';

/** For so long what is known of all is taken as it is. */
export const ALL_STALE_MS = 60_000;

/** Sources as their list shows them. */
export const useSourceLines = () =>
  useQuery({
    queryKey: keyOf('sources', 'lines'),
    queryFn: () => api.get<SourceLine[]>('/sources/lines'),
    refetchInterval: 10_000,
  });

const oneSource = (id: string) => ({
  queryKey: keyOf('sources', 'one', id),
  queryFn: () => api.get<SourceView>(`/sources/${id}`),
  enabled: id !== '',
  refetchInterval: 10_000,
});

/** A whole source. */
export const useSource = (id: string) => useQuery(oneSource(id));

/** Some whole sources, as far as they are there yet. */
export const useSourcesNamed = (ids: string[]) =>
  useQueries({
    queries: ids.map(oneSource),
    combine: (found) => ({
      sources: found.flatMap(({ data }) => data ?? []),
      isPending: found.some(({ isPending }) => isPending),
    }),
  });

/** All sources as a whole: where something is looked up in all of them. Many are much, so they are not fetched again by themselves. */
export const useSources = () =>
  useQuery({
    queryKey: keyOf('sources', 'all'),
    queryFn: () => api.get<SourceView[]>('/sources'),
    staleTime: ALL_STALE_MS,
    refetchOnWindowFocus: false,
  });
export const useSamples = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('samples', sourceId),
    queryFn: () => api.get<SampleView[]>(`/sources/${sourceId}/samples`),
    enabled: sourceId !== '',
  });

/** How many took which way through a form. */
export const useWays = (sourceId: string, wanted: boolean) =>
  useQuery({
    queryKey: keyOf('ways', sourceId),
    queryFn: () => api.get<WaysView>(`/sources/${sourceId}/ways`),
    enabled: wanted,
    refetchInterval: 30_000,
  });

/** What a source set aside this month. */
export const useSetAside = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('set-aside', sourceId),
    queryFn: () => api.get<SetAsideView>(`/sources/${sourceId}/set-aside`),
  });

/** How the variants of a form do; null where none are live. */
export const useVariants = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('variants', sourceId),
    queryFn: () => api.get<VariantsView | null>(`/sources/${sourceId}/variants`),
    refetchInterval: 30_000,
  });

/** Many samples at once, each with what is known of the person. */
export const useKnownSamples = (sourceId: string, wanted: boolean) =>
  useQuery({
    queryKey: keyOf('samples', sourceId, 'known'),
    queryFn: () => api.get<KnownSample[]>(`/sources/${sourceId}/known-samples`),
    enabled: sourceId !== '' && wanted,
    staleTime: 60_000,
  });

export function useAddSource() {
  const queries = useQueryClient();
  const refresh = useRefresh(['sources']);
  return useMutation({
    mutationFn: (input: {
      name: string;
      kind: MadeKind;
      start?: string;
      page?: string;
      connectionId?: string;
      /** Live at once, and this colleague is told by mail of what comes. */
      tell?: string;
    }) => api.post<SourceView>('/sources', input),
    onSuccess: (source) => {
      queries.setQueryData(keyOf('sources', 'one', source.id), source);
      return refresh();
    },
  });
}

/** Words in a draft that live routes would take as consent, and of which nobody has said what they are for. */
export const useNewWords = (id: string, draftAt: string) =>
  useQuery({
    queryKey: keyOf('sources', 'new words', id, draftAt),
    queryFn: () => api.get<NewWords[]>(`/sources/${id}/new-words`),
    // Somebody may decide on them meanwhile, under Consent.
    staleTime: 0,
  });

/** The pages of sites on which any form was met lately, those with most visitors first. */
export const usePagesMetOn = () =>
  useQuery({ queryKey: keyOf('sources', 'pages'), queryFn: () => api.get<string[]>('/sources/pages') });

/** Says when the draft of a source goes live. @returns a mutation by when, in milliseconds since 1970; null for never */
export function useSchedule(id: string) {
  const refresh = useRefresh(['sources', 'overview', 'changes']);
  return useMutation({
    mutationFn: (at: number | null) => api.post<SourceView>(`/sources/${id}/schedule`, { at }),
    onSettled: refresh,
  });
}

/** What was published of a source, the newest first. */
export const useSourceVersions = (id: string) =>
  useQuery({
    queryKey: keyOf('sources', id, 'versions'),
    queryFn: () => api.get<SourceVersionView[]>(`/sources/${id}/versions`),
  });

/** A published version; it never changes. */
export const useSourceVersion = (id: string, version: number | null) =>
  useQuery({
    queryKey: keyOf('sources', id, 'versions', version),
    queryFn: () => api.get<MadeDocument>(`/sources/${id}/versions/${version}`),
    enabled: version !== null,
    staleTime: Infinity,
  });

/** The pages on which a form was met lately. */
export const usePagesOf = (id: string) =>
  useQuery({ queryKey: keyOf('pages-of', id), queryFn: () => api.get<string[]>(`/sources/${id}/pages`) });

/** A page of the web as it can be shown beside a form that is worked on. */
export const useShowPage = () =>
  useMutation({ mutationFn: (url: string) => api.post<ShownPage>('/sources/shown-page', { url }) });

/** What is found of a form on pages. */
export const useInstallation = (id: string) =>
  useMutation({
    mutationFn: (pages: string[]) => api.post<PageInstallation[]>(`/sources/${id}/installation`, { pages }),
  });

/** Where the draft of a source is kept. */
export const useKeepSource = (id: string): DraftStore<MadeDocument> => useDraftStore('sources', id);
