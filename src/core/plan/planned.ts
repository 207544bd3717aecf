import type { Channel, ConsentEventKind, ConsentNeed } from '../consent/index.ts';
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
import { withChannel, withEnds, withPlaces, withRules, withSubject, type Intent } from './intent.ts';
import { targetIdAt, type ConsentPolicy } from './route.ts';

export interface PlannedConsent {
  kind: ConsentEventKind;
  /** Id of the purpose. */
  purpose: string;
  channel: Channel;
  /** The words the person agreed to or was asked with. */
  wording: string;
  /** When it was said, in milliseconds since 1970, where that was elsewhere and is known. */
  at?: number;
  /** Of a confirmation: when what it confirms was signed up for. */
  answers?: number;
}

/** When an action is done: at once, or when a confirmation that the same plan asks for is given. */
export type After = { kind: 'now' } | { kind: 'confirmed'; action: string };

interface ActionBase {
  /** Within the plan. */
  id: string;
  after: After;
  /** The consent without which it is not done; null where none is needed. */
  needs: ConsentNeed | null;
  /** Why it is done, in a sentence. */
  because: string;
  routeId: string;
}

/** A mail that asks the person to confirm. */
export interface Ask extends ActionBase {
  kind: 'ask';
  /** Ids of the purposes that one confirmation settles. */
  purposes: string[];
  to: string;
  mail: ConsentPolicy['mail'];
  expiresHours: number;
  /** An open confirmation that was sent a moment ago and serves this submission too; null when a new one goes out. */
  joins: string | null;
}

export interface Deliver extends ActionBase {
  kind: 'deliver';
  routeVersion: number;
  targetId: string;
  connectionId: string;
  intent: Intent;
  /** Set when it cannot be sent as it is; it is held from the start. */
  held: { cause: 'required field missing' | 'to be ended by hand'; message: string } | null;
  /** Optional values that the destination would not take. */
  leftOut: string[];
}

/** A mail to the visitor (answer), or to colleagues (notify). */
export interface Mail extends ActionBase {
  kind: 'answer' | 'notify';
  /** Id of the mail within its route. */
  mailId: string;
  to: string[];
  /** Whom an answer to it goes to; '' for whoever sends mail here. */
  replyTo: string;
  subject: string;
  text: string;
}

/** One thing that is to be done. */
export type Action = Ask | Deliver | Mail;

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
  'other branch',
  'nothing applies',
  'no consent',
  'left before',
  'no address to confirm',
  'not confirmed',
  'no address to answer',
  'only gaps',
  'change asked for',
  'confirmed before',
  'asked minutes ago',
  'answered minutes ago',
  'nothing follows',
  'our own doing',
  'told before',
  'cannot be told',
  'a test',
  'broke off',
  'said',
] as const;
export type NoteCode = (typeof NOTE_CODES)[number];

export interface Note {
  code: NoteCode;
  text: string;
  /** The target that it is about, where it is about one; notes of before never say. */
  targetId?: string;
}

/** Notes why something a reader might expect does not happen. */
export const note = (plan: Plan, code: NoteCode, text: string, targetId?: string): void =>
  void plan.notes.push({ code, text, ...(targetId === undefined ? {} : { targetId }) });

/** All that is to happen for one submission. */
export interface Plan {
  format: number;
  contact: PlannedContact | null;
  consent: PlannedConsent[];
  actions: Action[];
  /** Why something a reader might expect does not happen. */
  notes: Note[];
}

/** The actions of one kind in a plan. */
export const asksIn = ({ actions }: Plan): Ask[] => actions.filter((action) => action.kind === 'ask');
export const deliveriesIn = ({ actions }: Plan): Deliver[] => actions.filter((action) => action.kind === 'deliver');
export const mailsIn = ({ actions }: Plan): Mail[] =>
  actions.flatMap((action) => (action.kind === 'answer' || action.kind === 'notify' ? [action] : []));

const PLAN: Format = {
  what: 'plan',
  upgrades: [withTargets, withKeys, withActions, withPlacesMeant, withRulesMeant, withEndsMeant],
};

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

/** Plans to format 4: what is to be done are actions; consent has its channel, which was email before. */
function withActions({ confirmations, deliveries, ...old }: Loose): Loose {
  const asks = objectsIn(confirmations).map(({ purpose, ...confirmation }) => ({
    kind: 'ask',
    id: `ask ${String(purpose)}`,
    after: { kind: 'now' },
    needs: null,
    because: '',
    ...confirmation,
    purposes: [purpose],
  }));
  const delivers = objectsIn(deliveries).map(({ when, intent, ...delivery }) => {
    const meant: Loose = { ...withChannel((intent ?? {}) as Loose), format: 3 };
    const purpose = String(meant.purpose);
    return {
      kind: 'deliver',
      id: `${String(delivery.routeId)} ${String(delivery.targetId)}`,
      after: when === 'after confirmation' ? { kind: 'confirmed', action: `ask ${purpose}` } : { kind: 'now' },
      needs: { purpose, channel: 'email' },
      because: '',
      ...delivery,
      intent: meant,
    };
  });
  return {
    ...old,
    consent: objectsIn(old.consent).map((event) => ({ channel: 'email', ...event })),
    actions: [...asks, ...delivers],
  };
}

/** Plans to format 5: what is meant by their deliveries has any number of places. */
function withPlacesMeant(old: Loose): Loose {
  return withMeant(old, (intent) => ({ ...withPlaces(intent), format: 4 }));
}

/** Plans to format 6: fields of what is meant have rules of their own. */
function withRulesMeant(old: Loose): Loose {
  return withMeant(old, (intent) => ({ ...withRules(intent), format: 5 }));
}

/** Plans to format 7: what is meant may end what somebody gets. */
function withEndsMeant(old: Loose): Loose {
  return withMeant(old, (intent) => ({ ...withEnds(intent), format: 6 }));
}

/** A plan whose deliveries mean the same in a later format. */
const withMeant = (old: Loose, upgrade: (intent: Loose) => Loose): Loose => ({
  ...old,
  actions: objectsIn(old.actions).map((action) =>
    action.kind === 'deliver' ? { ...action, intent: upgrade((action.intent ?? {}) as Loose) } : action,
  ),
});
