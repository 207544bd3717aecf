import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { ConversationRow, ConversationView, FoundConversation } from '../../contract/chat.ts';
import type { Page } from '../../contract/pages.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';
import { keyOf } from './keys.ts';

/** Puts what the server tells at an address where a query keeps it, as long as the page is there (WHATWG HTML, 9.2). */
function useTold(path: string | null, queryKey: readonly unknown[]) {
  const queries = useQueryClient();
  const key = JSON.stringify(queryKey);
  useEffect(() => {
    if (path === null) return;
    const events = new EventSource(`/api${path}`);
    events.onmessage = ({ data }: MessageEvent<string>) => {
      queries.setQueryData(JSON.parse(key) as unknown[], JSON.parse(data) as unknown);
    };
    return () => events.close();
  }, [path, key, queries]);
}

/** Conversations: those that go on, or all. */
export function useConversations(which: 'open' | 'all') {
  const queryKey = keyOf('conversations', which);
  useTold(`/conversations/stream?which=${which}`, queryKey);
  return useQuery({ queryKey, queryFn: () => api.get<ConversationRow[]>(`/conversations?which=${which}`) });
}

/** Conversations that were last touched before one, as they are now: nothing goes on in most of them. */
export const useEarlierConversations = (which: 'open' | 'all', last: ConversationRow, wanted: boolean) =>
  useInfiniteQuery({
    queryKey: keyOf('conversations', 'earlier', which, last.id),
    initialPageParam: `${Date.parse(last.touchedAt)}_${last.id}`,
    queryFn: ({ pageParam }) =>
      api.get<Page<ConversationRow>>(`/conversations/earlier?which=${which}&before=${pageParam}`),
    getNextPageParam: (page) => page.next ?? undefined,
    enabled: wanted,
  });

/** Conversations in which somebody said something; '' for nothing that is looked for. */
export const useSaid = (text: string) =>
  useInfiniteQuery({
    queryKey: keyOf('conversations', 'said', text),
    initialPageParam: '',
    queryFn: ({ pageParam }) => api.post<Page<FoundConversation>>('/conversations/search', { text, before: pageParam }),
    getNextPageParam: (page) => page.next ?? undefined,
    enabled: text !== '',
  });

/** One conversation, as it goes on. */
export function useConversation(id: string) {
  const queryKey = keyOf('conversations', 'one', id);
  useTold(id === '' ? null : `/conversations/${id}/stream`, queryKey);
  return useQuery({
    queryKey,
    queryFn: () => api.get<ConversationView>(`/conversations/${id}`),
    enabled: id !== '',
  });
}

/** The conversation that a submission came of; null for others. */
export const useConversationOf = (submissionId: string, wanted: boolean) =>
  useQuery({
    queryKey: keyOf('conversations', 'of', submissionId),
    queryFn: () => api.get<ConversationView | null>(`/conversations/of/${submissionId}`),
    enabled: wanted,
  });

export type TalkAct = { act: 'take' | 'give-back' | 'end' } | { act: 'say'; text: string };

/** Has a colleague do something in a conversation. */
export function useTalk(id: string) {
  const refresh = useRefresh(['conversations', 'submissions']);
  return useMutation({
    mutationFn: (one: TalkAct) =>
      api.post<ConversationView>(`/conversations/${id}/${one.act}`, one.act === 'say' ? { text: one.text } : {}),
    onSettled: refresh,
  });
}
