import type { ConsentEventKind } from '../consent/index.ts';
import {
  isObject,
  objectsIn,
  presentFormat,
  upToDate,
  type DocumentIssue,
  type Format,
  type Loose,
} from '../documents/index.ts';
import type { ContactKey, Possible, ValueChange } from '../identity/index.ts';
import type { Result } from '../result.ts';
import { withSubject, type Intent } from './intent.ts';
import { targetIdAt, type ConsentPolicy } from './route.ts';

export interface PlannedConsent {
  kind: ConsentEventKind;
  purpose: string;
  /** The words the person agreed to or was asked with. */
  wording: string;
}

export interface PlannedConfirmation {
  routeId: string;
  purpose: string;
  to: string;
  mail: ConsentPolicy['mail'];
  expiresHours: number;
  /** An open confirmation that was sent a moment ago and serves this submission too; null when a new one goes out. */
  joins: string | null;
}

export interface PlannedDelivery {
  routeId: string;
  routeVersion: number;
  targetId: string;
  connectionId: string;
  when: 'now' | 'after confirmation';
  intent: Intent;
  /** Set when it cannot be sent as it is; it is held from the start. */
  held: { cause: 'required field missing'; message: string } | null;
  /** Optional values that the destination would not take. */
  leftOut: string[];
}

/** Who the submission is of, and what it says of them. */
export interface PlannedContact {
  match: 'new' | 'matched';
  contactId: string | null;
  /** By which they were recognised, or will be. */
  key: ContactKey;
  /** All keys in the submission. */
  keys: ContactKey[];
  /** Who it may be as well: for a person to decide. Meanwhile they are told apart. */
  possible: Possible[];
  changes: ValueChange[];
}

/** What a note is about, so that notes can be counted and translated; 'said' for those of before they had a code. */
export const NOTE_CODES = [
  'nobody',
  'possibly the same',
  'no live route',
  'no connection',
  'not for them',
  'no consent',
  'no address to confirm',
  'only gaps',
  'change asked for',
  'confirmed before',
  'asked minutes ago',
  'said',
] as const;
export type NoteCode = (typeof NOTE_CODES)[number];

export interface Note {
  code: NoteCode;
  text: string;
}

/** All that is to happen for one submission. */
export interface Plan {
  format: number;
  contact: PlannedContact | null;
  consent: PlannedConsent[];
  confirmations: PlannedConfirmation[];
  deliveries: PlannedDelivery[];
  /** Why something a reader might expect does not happen. */
  notes: Note[];
}

const PLAN: Format = { what: 'plan', upgrades: [withTargets, withKeys] };

/** The format of plans as they are written today. */
export const PLAN_FORMAT = presentFormat(PLAN);

/** Reads a plan of any format that was ever written. */
export const readPlan = (json: unknown): Result<Plan, DocumentIssue> =>
  upToDate(PLAN, json) as Result<Plan, DocumentIssue>;

/** Plans to format 2: deliveries name their target by its id; changes say when they are taken over. */
function withTargets(old: Loose): Loose {
  const contact = isObject(old.contact) ? old.contact : null;
  return {
    ...old,
    contact: contact && {
      ...contact,
      changes: objectsIn(contact.changes).map((change) => ({ when: 'now', ...change })),
    },
    deliveries: objectsIn(old.deliveries).map(({ targetIndex, ...delivery }) => ({
      ...delivery,
      targetId: targetIdAt(Number(targetIndex)),
      intent: { ...withSubject((delivery.intent ?? {}) as Loose), format: 2 },
    })),
  };
}

/** Plans to format 3: the contact has all its keys, and those it may be; changes have their rule, notes a code. */
function withKeys(old: Loose): Loose {
  const contact = isObject(old.contact) ? old.contact : null;
  return {
    ...old,
    contact: contact && {
      keys: [contact.key],
      possible: [],
      ...contact,
      changes: objectsIn(contact.changes).map((change) => ({ rule: 'latest', ...change })),
    },
    notes: Array.isArray(old.notes) ? old.notes.map((text: unknown) => ({ code: 'said', text })) : [],
  };
}
