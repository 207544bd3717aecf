import type { ExchangeView } from '../../contract/deliveries.ts';
import type { Channel } from '../../core/consent/index.ts';
import type { Fault, HeldPerson, Standing } from '../../core/delivery/index.ts';
import type { Catalogue, Intent, NamedMaking } from '../../core/plan/index.ts';
import type { DestinationFieldType, SentValue } from '../../core/mapping/index.ts';

export type Reply<T> = { ok: true; value: T } | { ok: false; fault: Fault };

/** Whom or what to look for in the other system. */
export interface Wanted {
  email: string;
  kind: string;
  /** The field that holds the address, where the service has no fixed one; '' when none does. */
  emailField: string;
  /** The key by which they are told apart there: the address where it is mapped, otherwise a number or an id. */
  key: string;
  /** The field that holds it; '' when none does. */
  keyField: string;
}

/** What is written about a person in the other system. */
export interface PersonChange extends Pick<Intent, 'kind' | 'places' | 'tags' | 'leaves' | 'tagsOff'>, Wanted {
  fields: Record<string, SentValue | null>;
  /** Fields other than the address itself, for services that take the address apart from the fields. */
  otherFields: Record<string, SentValue | null>;
  /** Proof that the person confirmed, which lets back in who left before; null without one. */
  proof: { at: string; wording: string } | null;
}

/** Something that is made in the other system from here. */
export interface Making extends NamedMaking {
  /** What a field takes; the choices of one that has some. */
  type: DestinationFieldType;
  choices: string[];
}

/** An address of ours, as the other system registered it. */
export interface Registered {
  remoteId: string;
  /** What it signs with. */
  secret: string;
}

/** Whether somebody was put into a place, or taken out of one, by a request of its own. */
export interface Placed {
  moved: boolean;
}

/** How several people are written by one request, each with an outcome of their own. */
export interface Together {
  /** How many one request takes at most. */
  most: number;
  /** Whether the answer for each is what is held after it. */
  answersProve: boolean;
  /**
   * @param records where each one's part of the request and the answer is kept, in the order of the changes
   * @returns an outcome for each change, in their order
   */
  write(
    changes: { change: PersonChange; idempotencyKey: string }[],
    records: ExchangeView[][],
  ): Promise<Reply<HeldPerson | null>[]>;
  /** The records of several people by address; null when they have to be found one by one. */
  find: ((emails: string[], records: ExchangeView[][]) => Promise<Reply<Map<string, HeldPerson>>>) | null;
}

/** By what channel, and with what proof that they confirmed, somebody is subscribed or unsubscribed. */
export interface StandingBy {
  channel: Channel;
  proof: PersonChange['proof'];
}

/** Access to one account of one other system, in the words of the job. */
export interface Connector {
  fetchCatalogue(): Promise<Reply<Catalogue>>;
  /** Whether somebody can be looked for there: nobody can by a key that is mapped to no field. */
  canLookFor(wanted: Wanted): boolean;
  /** Whether it has to be known who is there before anything is written. */
  findsFirst: boolean;
  /** Whether a write replaces the lists, groups or tags of whoever is there, so that what they hold has to be sent along. */
  replaces: boolean;
  /** Whether a repeated write adds something twice. */
  adds: boolean;
  /** Whether making somebody once more makes a second one: nothing tells the service that it is a repeat. */
  makesTwice: boolean;
  /** How long it may take until somebody who was made there is found there, in milliseconds. */
  shownAfterMs: number;
  /** The newest record of a person; null when there is none. */
  find(wanted: Wanted): Promise<Reply<HeldPerson | null>>;
  /**
   * Makes or changes a person. Harmless when repeated with the same key, unless it adds.
   * @param before the person as found before, where that is known
   * @returns the person as the answer has them; null when it does not say
   */
  write(change: PersonChange, before: HeldPerson | null, idempotencyKey: string): Promise<Reply<HeldPerson | null>>;
  /**
   * Puts somebody who is there into the lists, groups and tags that `write` does not, and takes them out of those that
   * they are to leave. Harmless when repeated.
   * @returns whether anything had to be asked for, so that an earlier answer shows it no more
   */
  place(change: PersonChange, held: HeldPerson | null): Promise<Reply<Placed>>;
  /** Whether the answer to a write is what is held after it, so that nobody has to look. */
  answersProve: boolean;
  /** Which standing somebody can be brought into by hand. */
  standings: Standing[];
  /** Subscribes or unsubscribes somebody who is there. To come back after leaving they may need proof. */
  setStanding(wanted: Wanted, held: HeldPerson, to: Standing, by: StandingBy): Promise<Reply<null>>;
  /** Several people by one request; null when the service does not take them together. */
  together: Together | null;
  /** Registers an address of ours that is told what happens there. @param secret what it is to sign with, if we may choose */
  register(address: string, secret: string): Promise<Reply<Registered>>;
  unregister(remoteId: string): Promise<Reply<null>>;
  make(making: Making): Promise<Reply<string>>;
  /** Whether a record can be deleted from here. */
  canRemove: boolean;
  /** Deletes a record; for cleaning up after a trial. */
  remove(wanted: Wanted, held: HeldPerson): Promise<Reply<null>>;
}
