import type { Fault, HeldPerson } from '../../core/delivery/index.ts';
import type { Catalogue, Intent } from '../../core/plan/index.ts';
import type { SentValue } from '../../core/mapping/index.ts';

export type Reply<T> = { ok: true; value: T } | { ok: false; fault: Fault };

/** What is written about a person in the other system. */
export interface PersonChange extends Pick<Intent, 'email' | 'list' | 'group' | 'tags'> {
  fields: Record<string, SentValue>;
  /** Proof that the person confirmed, which lets back in who left before; null without one. */
  proof: { at: string; wording: string } | null;
}

/** Access to one account of one other system, in the words of the job. */
export interface Connector {
  fetchCatalogue(): Promise<Reply<Catalogue>>;
  findPerson(email: string): Promise<Reply<HeldPerson | null>>;
  /** Makes or changes a person and puts them in their places. Harmless when repeated with the same key. */
  upsertPerson(change: PersonChange, idempotencyKey: string): Promise<Reply<HeldPerson | null>>;
}
