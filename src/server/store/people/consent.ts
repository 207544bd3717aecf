import { sql } from 'drizzle-orm';
import {
  consentState,
  type Channel,
  type ConsentEventKind,
  type ConsentNeed,
  type ConsentState,
} from '../../../core/consent/index.ts';
import { groupBy } from '../../../core/groupBy.ts';
import { insertRows, oneOf, rowsOf, type Db } from '../database.ts';
import { consentEvents } from '../schema/index.ts';

export interface NewConsentEvent {
  id: string;
  contactId: string;
  submissionId: string | null;
  purpose: string;
  channel: Channel;
  kind: ConsentEventKind;
  at: number;
  /** Of a confirmation: when what it confirms was signed up for. */
  answers?: number | null;
  wording: string;
  evidence: Record<string, string>;
}

export async function addConsentEvents(db: Db, events: NewConsentEvent[]): Promise<void> {
  await insertRows(
    db,
    consentEvents,
    events.map((event) => ({ answers: null, ...event })),
  );
}

/** Proof that a person confirmed, for another system. */
export interface Proof {
  at: string;
  wording: string;
}

/** What a person said about one purpose and channel. */
export interface Consent {
  state: ConsentState;
  /** Their newest confirmation; null when they never confirmed. */
  proof: Proof | null;
}

/** What the persons of each of these contacts said, for each purpose and channel, by `consentKey`. */
export async function readConsent(db: Db, contactIds: string[]): Promise<Map<string, Consent>> {
  const events = [...(await consentOf(db, contactIds)).values()].flat();
  const byKey = groupBy(events, ({ contactId, ...said }) => consentKey(contactId, said));
  return new Map(
    [...byKey].map(([key, own]) => {
      const confirmed = own.findLast(({ kind }) => kind === 'confirmed');
      const proof = confirmed ? { at: new Date(confirmed.at).toISOString(), wording: confirmed.wording } : null;
      return [key, { state: consentState(own), proof }];
    }),
  );
}

export const consentKey = (contactId: string, { purpose, channel }: ConsentNeed): string =>
  `${contactId} ${channel} ${purpose}`;

/** A consent event as the ledger has it, without its evidence. */
type ConsentEntry = Pick<NewConsentEvent, 'contactId' | 'purpose' | 'channel' | 'kind' | 'at' | 'answers' | 'wording'>;

/** Consent events of the persons of several contacts, by contact, in the order in which they happened. */
export async function consentOf(db: Db, ids: string[]): Promise<Map<string, ConsentEntry[]>> {
  if (ids.length === 0) return new Map();
  const rows = await rowsOf<ConsentEntry>(
    db,
    sql`SELECT own.id AS contactId, e.purpose, e.channel, e.kind, e.at, e.answers_at AS answers, e.wording FROM contacts own
      STRAIGHT_JOIN contacts part ON part.person_id = own.person_id STRAIGHT_JOIN consent_events e ON e.contact_id = part.id
      WHERE own.id IN ${oneOf([...new Set(ids)])} AND e.undone_at IS NULL ORDER BY e.at`,
  );
  return groupBy(rows, (entry) => entry.contactId);
}
