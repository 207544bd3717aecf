import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Page } from '../../contract/pages.ts';
import type { PersonRow, PersonView, PlaceActInput, PlaceView } from '../../contract/people.ts';
import { api } from './api.ts';
import { useLongList } from './longList.ts';
import { keyOf } from './keys.ts';

export const usePerson = (id: string | undefined) =>
  useQuery({
    queryKey: keyOf('people', 'one', id),
    queryFn: () => api.get<PersonView>(`/people/${id}`),
    enabled: Boolean(id),
    refetchInterval: 5_000,
  });

/** People, those who changed last first, a page after the other. */
export const usePeople = (text: string) => useLongList<PersonRow>('people', '/people', { text }, 10_000);

/** A few people in whose address, number or name a word begins so. */
export const usePeopleLike = (text: string) =>
  useQuery({
    queryKey: keyOf('people', 'like', text),
    queryFn: () => api.get<Page<PersonRow>>(`/people?text=${encodeURIComponent(text)}`),
    enabled: text.length > 1,
  });

/** How other systems hold a person, asked this moment. */
export const usePlaces = (personId: string) =>
  useQuery({
    queryKey: keyOf('people', 'places', personId),
    queryFn: () => api.get<PlaceView[]>(`/people/${personId}/places`),
    staleTime: 60_000,
  });

/** What can be changed at one of them. */
export type PlaceAct = Partial<Pick<PlaceActInput, 'list' | 'group' | 'tag' | 'reason'>> & Pick<PlaceActInput, 'act'>;

/** Changes how another system holds a person. */
export function useChangePlace(personId: string, { connectionId, kind }: Pick<PlaceView, 'connectionId' | 'kind'>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (act: PlaceAct) => api.post<PlaceView>(`/people/${personId}/places`, { connectionId, kind, ...act }),
    onSuccess: (changed) =>
      queries.setQueryData<PlaceView[]>(keyOf('people', 'places', personId), (all) =>
        all?.map((one) => (one.connectionId === connectionId && one.kind === kind ? changed : one)),
      ),
    // Also after a failure: a withdrawal is written down all the same.
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf('people', 'one', personId) }),
  });
}
