import { decide, type Condition, type Decision } from '../conditions/index.ts';
import type { Channel, ConsentEvent } from '../consent/index.ts';
import type { ContactKey, Identified, KnownContact } from '../identity/index.ts';
import { factFields, factsOf, type Visit } from '../intake/index.ts';
import type { FieldValues, SourceField, Trust } from '../values/index.ts';
import type { Catalogue } from './catalogue.ts';
import type { Intent } from './intent.ts';
import type { RouteDocument } from './route.ts';

export interface LiveRoute {
  id: string;
  name: string;
  version: number;
  document: RouteDocument;
}

/** What is known of a person when a submission of theirs is planned. */
export interface KnownPerson {
  contact: KnownContact | null;
  /** How they were recognised. */
  identified: Identified;
  consent: (ConsentEvent & { purpose: string; channel: Channel })[];
  /** Confirmations that were asked for and not given yet. */
  openConfirmations: { id: string; purposes: string[]; lastSentAt: number }[];
  /** What was last meant for them by each target, of all that was not dropped. */
  sent: { routeId: string; targetId: string; intent: Intent }[];
  /** The answers that went out to them lately. */
  answered: { routeId: string; mailId: string; at: number }[];
}

export interface PlanInput {
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  /** How far the source is trusted. */
  trust: Trust;
  /** By the ids of the fields. */
  values: FieldValues;
  /** The keys in it, the surest first. */
  keys: ContactKey[];
  /** How the submission came. */
  visit: Visit;
  routes: LiveRoute[];
  known: KnownPerson;
  /** Catalogue by connection id. */
  catalogues: Record<string, Catalogue>;
  now: number;
}

/** Whether a condition holds for what was entered, and how it came. */
export const decideFor = (when: Condition, { values, visit, fields }: PlanInput): Decision =>
  decide(when, factsOf(values, visit), factFields(fields));
