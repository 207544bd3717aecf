import { transitionsOf } from './transitions.ts';

/**
 * The states of a conversation. talking: by itself. wanted: a colleague is. taken: one has it. ended, broken off: over, though whoever left may
 * come back.
 */
export type ChatStatus = 'talking' | 'wanted' | 'taken' | 'ended' | 'broken off';
export type ChatEvent =
  'wants a colleague' | 'was taken' | 'was given back' | 'came to its end' | 'broke off' | 'was taken up again';

export const CHATTING = transitionsOf<ChatStatus, ChatEvent>({
  'wants a colleague': { from: ['talking'], to: 'wanted' },
  'was taken': { from: ['talking', 'wanted', 'broken off'], to: 'taken' },
  'was given back': { from: ['wanted', 'taken'], to: 'talking' },
  'came to its end': { from: ['talking', 'wanted', 'taken', 'broken off'], to: 'ended' },
  'broke off': { from: ['talking', 'wanted', 'taken'], to: 'broken off' },
  'was taken up again': { from: ['broken off'], to: 'talking' },
});
