import { useQueryClient } from '@tanstack/react-query';
import { keyOf, type Subject } from './keys.ts';

/** Has everything about these subjects asked for anew. */
export function useRefresh(subjects: Subject[]): () => Promise<unknown> {
  const queries = useQueryClient();
  return () => Promise.all(subjects.map((subject) => queries.invalidateQueries({ queryKey: keyOf(subject) })));
}
