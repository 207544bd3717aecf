import type { Fault, HeldPerson } from '../../core/delivery/index.ts';
import type { Catalogue, Intent } from '../../core/plan/index.ts';
import type { SentValue } from '../../core/mapping/index.ts';

export type Reply<T> = { ok: true; value: T } | { ok: false; fault: Fault };

/** Whom or what to look for in the other system. */
export interface Wanted {
  email: string;
  kind: string;
  /** The field that holds the address, where the service has no fixed one; '' when none does. */
  emailField: string;
}

/** What is written about a person in the other system. */
export interface PersonChange extends Pick<Intent, 'email' | 'kind' | 'list' | 'group' | 'tags'>, Wanted {
  fields: Record<string, SentValue>;
  /** Fields other than the address itself, for services that take the address apart from the fields. */
  otherFields: Record<string, SentValue>;
  /** Proof that the person confirmed, which lets back in who left before; null without one. */
  proof: { at: string; wording: string } | null;
}

/** Something that is made in the other system from here. */
export interface Making {
  what: 'list' | 'group' | 'tag' | 'field';
  name: string;
  /** The list that a group is made in; '' otherwise. */
  list: string;
  /** The kind of record that a field is made for; '' where there is but one. */
  kind: string;
}

/** Access to one account of one other system, in the words of the job. */
export interface Connector {
  fetchCatalogue(): Promise<Reply<Catalogue>>;
  /** Whether somebody can be asked for at all. */
  canFind: boolean;
  /** Whether it has to be known who is there before anything is written. */
  findsFirst: boolean;
  /** Whether a repeated write adds something twice. */
  adds: boolean;
  /** The newest record of a person; null when there is none. */
  find(wanted: Wanted): Promise<Reply<HeldPerson | null>>;
  /**
   * Makes or changes a person. Harmless when repeated with the same key, unless it adds.
   * @param before the person as found before, where that is known
   * @returns the person as the answer has them; null when it does not say
   */
  write(change: PersonChange, before: HeldPerson | null, idempotencyKey: string): Promise<Reply<HeldPerson | null>>;
  /** Puts somebody who is there into the lists, groups and tags that `write` does not. Harmless when repeated. */
  place(change: PersonChange, held: HeldPerson | null): Promise<Reply<null>>;
  make(making: Making): Promise<Reply<string>>;
  /** Deletes a record; for cleaning up after a trial. */
  remove(wanted: Wanted, held: HeldPerson): Promise<Reply<null>>;
}
