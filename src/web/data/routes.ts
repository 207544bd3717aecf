import { keepPreviousData, useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RouteLine } from '../../contract/entries.ts';
import type { LookView, RehearsalView, TrialView } from '../../contract/rehearsal.ts';
import type { ChoiceInput, SendingInput, SendingPreview, SendingView } from '../../contract/sendings.ts';
import type { RouteVersionView, RouteView } from '../../contract/route.ts';
import type { SampleStanding, Visit } from '../../core/intake/index.ts';
import { usesOfField, type FieldUse, type RouteDocument } from '../../core/plan/index.ts';
import type { FieldValues } from '../../core/values/index.ts';
import { api, type Plain } from './api.ts';
import { useConnections } from './connections.ts';
import { useRefresh } from './refresh.ts';
import { ALL_STALE_MS, useSource } from './sources.ts';
import { useDraftStore, type DraftStore } from './draftStore.ts';
import { keyOf } from './keys.ts';

/** Routes as their list shows them. */
export const useRouteLines = () =>
  useQuery({
    queryKey: keyOf('routes', 'lines'),
    queryFn: () => api.get<RouteLine[]>('/routes/lines'),
    refetchInterval: 10_000,
  });

const oneRoute = (id: string) => ({
  queryKey: keyOf('routes', 'one', id),
  queryFn: () => api.get<RouteView>(`/routes/${id}`),
  enabled: id !== '',
  refetchInterval: 10_000,
});

/** A whole route. */
export const useRoute = (id: string) => useQuery(oneRoute(id));

/** The routes that take from a source, as far as they are there yet. */
export function useRoutesOf(sourceId: string): RouteView[] {
  const named = useSource(sourceId).data?.routes ?? [];
  return useQueries({
    queries: named.map(({ id }) => oneRoute(id)),
    combine: (found) => found.flatMap(({ data }) => data ?? []),
  });
}

/** All routes as a whole: where something is looked up in all of them. Many are much, so they are not fetched again by themselves. */
export const useRoutes = () =>
  useQuery({
    queryKey: keyOf('routes', 'all'),
    queryFn: () => api.get<RouteView[]>('/routes'),
    staleTime: ALL_STALE_MS,
    refetchOnWindowFocus: false,
  });

/** What a route does with a field, in words. */
export interface FieldUseTold {
  route: { id: string; name: string };
  what: string;
}

/** What routes do with the fields of a source, by the ids of these. */
export function useFieldUses(sourceId: string): (fieldId: string) => FieldUseTold[] {
  const routes = useRoutesOf(sourceId);
  const connections = useConnections().data ?? [];
  const inWords = (use: FieldUse): string => {
    if (use.kind === 'mail') return 'a mail has it in it';
    if (use.kind === 'consent') return 'it gives consent';
    const connection = connections.find(({ id }) => id === use.connectionId);
    const name = connection?.name ?? 'a destination';
    if (use.kind === 'condition') return `decides what happens at ${name}`;
    const field = connection?.catalogue?.fields.find(({ key }) => key === use.to);
    return `${field?.label ?? use.to} in ${name}`;
  };
  return (fieldId) =>
    routes.flatMap(({ id, name, draft }) =>
      usesOfField(draft, fieldId).map((use) => ({ route: { id, name }, what: inWords(use) })),
    );
}

export function useAddRoute() {
  const queries = useQueryClient();
  const refresh = useRefresh(['routes', 'sources']);
  return useMutation({
    mutationFn: (input: { name: string; sourceId: string }) => api.post<RouteView>('/routes', input),
    onSuccess: (route) => {
      queries.setQueryData(keyOf('routes', 'one', route.id), route);
      return refresh();
    },
  });
}

/** Where the draft of a route is kept. */
export const useKeepRoute = (id: string): DraftStore<RouteDocument> => useDraftStore('routes', id);

/** The plan that the saved draft makes of a sample, with all that is known of the person; anew once destinations offer something else. */
export function useRehearsal(route: RouteView, sample: Rehearsed) {
  const used = new Set(route.draft.targets.map(({ connectionId }) => connectionId));
  const offeredAt = (useConnections().data ?? [])
    .filter(({ id }) => used.has(id))
    .map(({ catalogueAt }) => catalogueAt);
  return useQuery({
    queryKey: keyOf('rehearsal', route.id, route.draftAt, sample, offeredAt),
    queryFn: () => api.post<RehearsalView>(`/routes/${route.id}/rehearsal`, sample),
    enabled: sample.values !== null,
    placeholderData: keepPreviousData,
  });
}

/** A sample, as it is rehearsed. */
export interface Rehearsed {
  sourceId: string;
  values: FieldValues | null;
  visit: Visit;
  /** Who is supposed to have sent it; '' for whoever it is. */
  standing: SampleStanding | '';
}

/** Reads how a destination holds the person of a sample, when somebody asks for it. */
export const useLook = (routeId: string) =>
  useMutation({
    mutationFn: (input: Rehearsed & { targetId: string }) => api.post<LookView>(`/routes/${routeId}/look`, input),
  });

/** Sends a test person to one target after another; what came of each is known as soon as it is. */
export function useLiveRehearsal(routeId: string, onStep: (trial: TrialView) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (input: Rehearsed & { address: string }) => {
      let trial = await api.post<TrialView>(`/routes/${routeId}/trials`, input);
      onStep(trial);
      for (const { targetId, state } of trial.targets) {
        if (state !== 'waiting') continue;
        trial = await api.post<TrialView>(`/routes/${routeId}/trials/${trial.id}/targets/${targetId}`);
        onStep(trial);
      }
      return trial;
    },
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf('routes') }),
  });
}

/** A live rehearsal as it ended. */
export const useTrial = (routeId: string, trialId: string | null) =>
  useQuery({
    queryKey: keyOf('trials', routeId, trialId),
    queryFn: () => api.get<TrialView>(`/routes/${routeId}/trials/${trialId}`),
    enabled: trialId !== null,
  });

/** What was published of a route, the newest first. */
export const useRouteVersions = (routeId: string) =>
  useQuery({
    queryKey: keyOf('routes', routeId, 'versions'),
    queryFn: () => api.get<RouteVersionView[]>(`/routes/${routeId}/versions`),
  });

/** A published version; it never changes. */
export const useRouteVersion = (routeId: string, version: number | null) =>
  useQuery({
    queryKey: keyOf('routes', routeId, 'versions', version),
    queryFn: () => api.get<RouteDocument>(`/routes/${routeId}/versions/${version}`),
    enabled: version !== null,
    staleTime: Infinity,
  });

/** Reads a version when somebody asks for it. */
export const useReadVersion = (routeId: string) =>
  useMutation({ mutationFn: (version: number) => api.get<RouteDocument>(`/routes/${routeId}/versions/${version}`) });

export function usePublishWithNote(routeId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (note: string) => api.post(`/routes/${routeId}/publish`, { note }),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf('routes') }),
  });
}

const sendingsKey = (routeId: string) => keyOf('routes', routeId, 'sendings');

/** The sendings of a route, asked for often while one is under way. */
export const useSendings = (routeId: string) =>
  useQuery({
    queryKey: sendingsKey(routeId),
    queryFn: () => api.get<SendingView[]>(`/routes/${routeId}/sendings`),
    refetchInterval: ({ state: { data } }) => (data?.some(({ state }) => state === 'running') ? 1_500 : 15_000),
  });

/** What would become of what is there, if it were sent now. */
export const useSendingPreview = (routeId: string) =>
  useMutation({
    mutationFn: (chosen: Plain<ChoiceInput>) => api.post<SendingPreview>(`/routes/${routeId}/sendings/preview`, chosen),
  });

/** Starts a sending, or steers one. */
export function useSending(routeId: string) {
  const queries = useQueryClient();
  const onSuccess = (views: SendingView[]) => queries.setQueryData(sendingsKey(routeId), views);
  return {
    start: useMutation({
      mutationFn: (input: Plain<SendingInput>) => api.post<SendingView[]>(`/routes/${routeId}/sendings`, input),
      onSuccess,
    }),
    steer: useMutation({
      mutationFn: ({ id, act }: { id: string; act: 'pause' | 'resume' | 'cancel' }) =>
        api.post<SendingView[]>(`/routes/${routeId}/sendings/${id}/${act}`),
      onSuccess,
    }),
  };
}
