import { useMutation, useQuery } from '@tanstack/react-query';
import type {
  FeedInput,
  FeedsView,
  ImportEvidence,
  ImportRows,
  ImportRunInput,
  ImportView,
  ReadingInput,
} from '../../contract/imports.ts';
import { api, type Plain } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

const OFTEN_MS = 1_500;
const SELDOM_MS = 10_000;

const isUnderWay = ({ state }: ImportView): boolean =>
  ['fetching', 'judging', 'rehearsing', 'running', 'undoing'].includes(state);

/** The files that were brought to a source, the newest first. */
export const useImports = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('imports', sourceId),
    queryFn: () => api.get<ImportView[]>(`/sources/${sourceId}/imports`),
    refetchInterval: ({ state }) => (state.data?.some(isUnderWay) ? OFTEN_MS : SELDOM_MS),
  });

/** The first rows of a file, as they are read. @param key changes when it is read in another way */
export const useImportRows = (sourceId: string, id: string, key: string) =>
  useQuery({
    queryKey: keyOf('imports', sourceId, id, 'rows', key),
    queryFn: () => api.get<ImportRows>(`/sources/${sourceId}/imports/${id}/rows`),
  });

export function useBringFile(sourceId: string) {
  const refresh = useRefresh(['imports']);
  return useMutation({
    mutationFn: (file: File) => api.upload<ImportView>(`/sources/${sourceId}/imports`, file, file.name),
    onSettled: refresh,
  });
}

/** What is done to an import. */
export type ImportAct =
  | { act: 'reading'; reading: Plain<ReadingInput> }
  | { act: 'rehearse'; evidence: ImportEvidence }
  | { act: 'begin'; run: Plain<ImportRunInput> }
  | { act: 'pause' | 'resume' | 'cancel' | 'end-rehearsal' | 'undo' | 'delete' };

export function useActOnImport(sourceId: string, id: string) {
  const refresh = useRefresh(['imports', 'sources', 'submissions']);
  return useMutation({
    mutationFn: (one: ImportAct): Promise<unknown> => {
      const path = `/sources/${sourceId}/imports/${id}`;
      switch (one.act) {
        case 'reading':
          return api.put(`${path}/reading`, one.reading);
        case 'rehearse':
          return api.post(`${path}/rehearse`, one.evidence);
        case 'begin':
          return api.post(`${path}/begin`, one.run);
        case 'delete':
          return api.delete(path);
        default:
          return api.post(`${path}/${one.act}`, {});
      }
    },
    onSettled: refresh,
  });
}

/** How files come to a source by themselves. */
export const useFeed = (sourceId: string) =>
  useQuery({
    queryKey: keyOf('imports', sourceId, 'feed'),
    queryFn: () => api.get<FeedsView>(`/sources/${sourceId}/feed`),
    refetchInterval: SELDOM_MS,
  });

export type FeedAct = { act: 'set'; input: Plain<FeedInput> } | { act: 'look' | 'end' };

export function useActOnFeed(sourceId: string) {
  const refresh = useRefresh(['imports']);
  return useMutation({
    mutationFn: (one: FeedAct): Promise<unknown> => {
      const path = `/sources/${sourceId}/feed`;
      if (one.act === 'set') return api.put(path, one.input);
      return one.act === 'end' ? api.delete(path) : api.post(`${path}/look`, {});
    },
    onSettled: refresh,
  });
}
