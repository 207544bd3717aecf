import { dequal } from 'dequal';
import type { PublishState } from '../../core/states/index.ts';

/** A source or a route: a draft that saves itself, and the versions that were published. */
export interface Versioned<Document> {
  id: string;
  name: string;
  state: PublishState;
  draft: Document;
  draftAt: number;
  liveVersion: number | null;
  /** What is live; null before the first publishing. */
  live: Document | null;
  publishedAt: number | null;
}

/** Whether the draft differs from what is live. */
export function isChanged({ draft, live }: Versioned<unknown>): boolean {
  return !dequal(draft, live);
}
