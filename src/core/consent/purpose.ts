import { oneLine } from '../values/index.ts';

/** By what somebody may be written to or called. Consent for one says nothing of the others. */
export const CHANNELS = ['email', 'sms', 'phone', 'post'] as const;
export type Channel = (typeof CHANNELS)[number];

/** What each is called, as in "by email". */
export const CHANNEL_WORDS: Record<Channel, string> = {
  email: 'email',
  sms: 'text message',
  phone: 'telephone',
  post: 'post',
};

/** What people consent to: managed in one place, asked for by routes. */
export interface Purpose {
  id: string;
  /** As people know it: "Sky letter". */
  name: string;
  /** The sentences by which people agree to it, as somebody here decided. */
  wordings: string[];
  channels: Channel[];
  /** Whether no route is to ask for it any more. What people said stays. */
  archived: boolean;
}

/** What is said of a purpose by whoever makes or changes it. */
export type PurposeDraft = Pick<Purpose, 'name' | 'wordings' | 'channels'>;

/** Consent that something needs before it may be done. */
export interface ConsentNeed {
  /** Id of the purpose. */
  purpose: string;
  channel: Channel;
}

/**
 * Whether a sentence is one by which people agree to a purpose. Blanks, capitals and the full stop are no difference;
 * any other word is, since it may say something else.
 */
export const fitsWording = ({ wordings }: Pick<Purpose, 'wordings'>, sentence: string): boolean =>
  wordings.some((wording) => plain(wording) === plain(sentence));

const plain = (sentence: string): string =>
  oneLine(sentence.normalize('NFC'))
    .replace(/[.!]+$/u, '')
    .toLowerCase();
