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
import type { ContactKey, ValueChange } from '../identity/index.ts';
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

/** All that is to happen for one submission. */
export interface Plan {
  format: number;
  contact: { match: 'new' | 'matched'; contactId: string | null; key: ContactKey; changes: ValueChange[] } | null;
  consent: PlannedConsent[];
  confirmations: PlannedConfirmation[];
  deliveries: PlannedDelivery[];
  /** Why something a reader might expect does not happen. */
  notes: string[];
}

const PLAN: Format = { what: 'plan', upgrades: [withTargets] };

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
