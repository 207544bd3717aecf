import type { ChatLine, ChatSaying } from '../core/chat/index.ts';
import type { FormLanguage } from '../core/forms/index.ts';
import { wordsIn } from './words/index.ts';

const SAYINGS: Record<ChatSaying, string> = {
  again: 'chat.again',
  'again, last': 'chat.againLast',
  'never mind': 'chat.neverMind',
  'answer one of these': 'chat.oneOf',
  'colleague left': 'chat.goesOn',
};

/** What a chat says, with our own words in the visitor's language before the question that they are about. */
export function chatLineIn(language: FormLanguage, { text, saying }: ChatLine): string {
  const own = saying === undefined ? '' : wordsIn(language)(SAYINGS[saying]);
  return [own, text].filter((one) => one !== '').join(' ');
}
