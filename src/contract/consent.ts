import type { Channel, ConsentEventKind } from '../core/consent/index.ts';
import type { MailState } from '../core/states/index.ts';

export interface ConsentEventView {
  kind: ConsentEventKind;
  /** As it is called now. */
  purpose: string;
  channel: Channel;
  wording: string;
  at: string;
  evidence: Record<string, string>;
  submissionId: string | null;
}

export type ConfirmationState = 'pending' | 'confirmed' | 'expired' | 'withdrawn';

export interface ConfirmationView {
  id: string;
  /** The purposes that it settles, as they are called now. */
  purposes: string[];
  state: ConfirmationState;
  sentTo: string;
  expiresAt: string;
  confirmedAt: string | null;
  mayResendAt: string | null;
  mails: MailView[];
}

/** A mail of ours. */
export interface MailView {
  id: string;
  kind: 'ask' | 'answer' | 'notify';
  to: string[];
  subject: string;
  text: string;
  state: MailState;
  at: string;
  /** Why it was not sent; '' for nothing. */
  error: string;
}
