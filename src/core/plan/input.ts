import { FINISHED_FIELD, type Unfinished } from '../chat/index.ts';
import { decide, fieldsAskedFor, isOfKnown, type Condition, type Decision, type Facts } from '../conditions/index.ts';
import type { ContactKey } from '../identity/index.ts';
import { factFields, factsOf, type SaidParts, type SourceDocument, type Visit } from '../intake/index.ts';
import type { FieldValues, SourceField, Trust } from '../values/index.ts';
import type { Catalogue } from './catalogue.ts';
import { knowledgeOf, type KnownPerson } from './knowledge.ts';

export type { KnownPerson } from './knowledge.ts';
import { conditionsIn, type RouteDocument } from './route.ts';
import type { PropagationInput } from './propagateWithdrawal.ts';

export interface LiveRoute {
  id: string;
  name: string;
  version: number;
  document: RouteDocument;
}

/** What is said of people who are taken over from a list, rather than having sent something themselves. */
export interface Imported {
  /** no: nobody was asked. given: they agreed. confirmed: they agreed, and proved that the address is theirs. */
  agreed: (typeof IMPORTED_AS)[number];
  /** The words that they agreed to. */
  words: string;
}

/** What is shown of a plan for a row of a file, before anybody has said what its people agreed to: as if they had, whole. */
export const importedForPreview = ({ kind }: Pick<SourceDocument, 'kind'>): Imported | null =>
  kind === 'file' ? { agreed: 'confirmed', words: '(the words that are said when a file is imported)' } : null;

/** What becomes of a conversation that broke off; null where it came to its end, or is none. */
export const brokeOffIn = (document: SourceDocument, values: FieldValues): Unfinished | null =>
  document.kind === 'chat' && values[FINISHED_FIELD] !== true ? document.unfinished : null;

export const IMPORTED_AS = ['no', 'given', 'confirmed'] as const;

export interface PlanInput {
  /** null where people sent it themselves. */
  imported?: Imported | null;
  /** How it tells in which words, and when, people agreed elsewhere; left out where they agree here. */
  tells?: SaidParts | null;
  /** What becomes of it, where it is of a conversation that broke off; left out where it ended. */
  brokeOff?: Unfinished | null;
  /** Where they get something on consents that they may take back by it; left out where nothing of the kind is said. */
  told?: Omit<PropagationInput, 'known'>;
  /** What stood on the page that they sent it on, where that may be something else than the source has. */
  shown?: { fields: SourceField[]; statement: string };
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
  /** What is known of them, as facts; left out: what `known` says. */
  knows?: FieldValues;
  /** What may be known of anybody, as fields: for sentences. */
  knowledge?: SourceField[];
  now: number;
}

/** What a route's conditions and lines go by: what was entered, how it came, and what is known of the person. */
export interface RouteFacts extends Facts {
  fields: SourceField[];
}

/** @param agreed what this very submission agrees to, as facts */
export function routeFacts(
  document: RouteDocument,
  { values, visit, fields, known, knows, knowledge = [], now }: PlanInput,
  agreed: () => FieldValues,
): RouteFacts {
  const sent = factsOf(values, visit);
  // Most routes ask for nothing of the kind, and it is not cheap.
  if (!asksForKnown(document)) return { values: sent, fields: factFields(fields), now };
  const all = { ...sent, ...(knows ?? knowledgeOf(known)), ...agreed() };
  return { values: all, fields: [...factFields(fields), ...knowledge], now };
}

/** Whether a route asks for something that is known of people, beside what they send. */
export function asksForKnown(document: RouteDocument): boolean {
  const before = ASKS.get(document);
  if (before !== undefined) return before;
  const whens = [...document.targets.flatMap(conditionsIn), ...document.mails.flatMap(({ when }) => when ?? [])];
  const asks = whens.some((when) => fieldsAskedFor(when).some(isOfKnown));
  ASKS.set(document, asks);
  return asks;
}

/** Found once for a document, which is never changed in place. */
const ASKS = new WeakMap<RouteDocument, boolean>();

/** Whether a condition holds for what is known. */
export const decideFor = (when: Condition, facts: RouteFacts): Decision => decide(when, facts, facts.fields);
