import { useQueryClient } from '@tanstack/react-query';

/** Has everything under these keys asked for anew. */
export function useRefresh(keys: string[]): () => Promise<unknown> {
  const queries = useQueryClient();
  return () => Promise.all(keys.map((key) => queries.invalidateQueries({ queryKey: [key] })));
}
