import type { Channel } from '../consent/index.ts';
import {
  isObject,
  objectsIn,
  presentFormat,
  upToDate,
  type DocumentIssue,
  type Format,
  type Loose,
} from '../documents/index.ts';
import type { Condition } from '../conditions/index.ts';
import type { MapLine } from '../mapping/index.ts';
import type { Result } from '../result.ts';

/** What happens to a person who is in the destination already. */
export const DUPLICATE_POLICIES = ['update', 'fill gaps', 'leave alone', 'add'] as const;
export type DuplicatePolicy = (typeof DUPLICATE_POLICIES)[number];

/** A tag that is set: on everybody, or on those for whom something is true. */
export interface TargetTag {
  id: string;
  tag: string;
  when: Condition | null;
}

/** A list, or a group in it; group '' means the list itself. */
export interface Place {
  list: string;
  group: string;
}

/** A place that people are put into: everybody, or those for whom something is true. */
export interface TargetPlace extends Place {
  id: string;
  when: Condition | null;
}

/** One connection and its places within a route. */
export interface Target {
  /** Outlives renaming and reordering: deliveries remember it. */
  id: string;
  /** Who goes there; null for everybody. */
  when: Condition | null;
  /**
   * Of the targets of one branch only the first goes that is for the person: one of these, otherwise the next. null: it stands by itself.
   */
  branch: string | null;
  /** The consent without which nobody goes there; null where none is needed, since the person asked for it themselves. */
  needs: { ask: string; channel: Channel } | null;
  connectionId: string;
  /** Id of the kind of record there; '' where there is but one. */
  kind: string;
  /** The destination's lists and groups, by their ids. */
  places: TargetPlace[];
  tags: TargetTag[];
  /** Places that people are taken out of, and tags that are taken off them. */
  leaves: Place[];
  tagsOff: string[];
  lines: MapLine[];
  duplicates: DuplicatePolicy;
}

/** Every condition in a target: who goes there, into which place, with which tag, with which value. */
export const conditionsIn = ({ when, places, tags, lines }: Target): Condition[] =>
  [when, ...[...places, ...tags, ...lines].map((part) => part.when)].filter((one) => one !== null);

/** One consent that a source asks for. */
export interface ConsentAsk {
  id: string;
  /** Id of the purpose; '' while none is chosen. */
  purpose: string;
  /** What the sentence that people agree to speaks of. */
  channels: Channel[];
  /** The tick field that gives it; '' when sending the form does, under the source's statement. */
  tickField: string;
}

/** The one system that has people confirm that the address is theirs. */
export type ConfirmedBy = { by: 'nobody' } | { by: 'iwashi' } | { by: 'target'; targetId: string };

export interface ConsentPolicy {
  asks: ConsentAsk[];
  /** nobody: the form is enough. iwashi: a mail goes out, and what needs consent by email waits until it is confirmed. */
  confirmedBy: ConfirmedBy;
  mail: { subject: string; body: string; button: string };
  expiresHours: number;
  /**
   * What becomes of changes to somebody who confirmed before: anybody who knows an address can send a form with it.
   * ask: they wait for a confirmation, or where the route asks for none only gaps are filled. at once: as sent.
   */
  changes: 'ask' | 'at once';
}

/**
 * A mail that goes out for a submission. answer: to the visitor. notify: to colleagues, which tells them of it. Two
 * different things: each has its own words, sender of replies, and whom it goes to.
 */
export interface RouteMail {
  id: string;
  kind: 'answer' | 'notify';
  /** For whom it goes out; null for everybody. */
  when: Condition | null;
  /** The addresses of the colleagues; of no use in an answer. */
  to: string[];
  /** confirmed: once the person confirmed, where this submission waits for that. */
  after: 'now' | 'confirmed';
  /** With {field} in them, by the ids of fields. {@answers} stands for all that was answered. */
  subject: string;
  body: string;
}

/** Sources wired to targets. Sources of one route have fields of the same ids. */
export interface RouteDocument {
  format: number;
  sourceIds: string[];
  targets: Target[];
  consent: ConsentPolicy;
  mails: RouteMail[];
  /** Warnings that somebody lets stand, with their reasons: by what each says (see findingKey). */
  accepted: Record<string, string>;
}

const ROUTE: Format = {
  what: 'route',
  upgrades: [withIds, withConditions, withAsks, withPlaces, withTold, withBranches],
};

/** The format of routes as they are written today. */
export const ROUTE_FORMAT = presentFormat(ROUTE);

/** Reads a route of any format that was ever written. */
export const readRoute = (json: unknown): Result<RouteDocument, DocumentIssue> =>
  upToDate(ROUTE, json) as Result<RouteDocument, DocumentIssue>;

/**
 * To format 2: targets, lines and tag rules have ids; places to leave, tags taken off and what becomes of changes are said.
 * The id of a target is made of where it stood, which deliveries of format 1 remember.
 */
function withIds(old: Loose): Loose {
  const consent = (old.consent ?? {}) as Loose;
  return {
    ...old,
    consent: { changes: 'ask', ...consent },
    targets: objectsIn(old.targets).map((target, index) => ({
      leaves: [],
      tagsOff: [],
      kind: '',
      ...target,
      id: targetIdAt(index),
      lines: objectsIn(target.lines).map((line) => ({ ...line, id: `l-${String(line.to)}` })),
      tagRules: objectsIn(target.tagRules).map((rule, at) => ({ ...rule, id: `r${at + 1}` })),
    })),
  };
}

/** To format 3: a route takes several sources, and targets may be for some people only. */
function withConditions({ sourceId, ...old }: Loose): Loose {
  return {
    ...old,
    sourceIds: typeof sourceId === 'string' && sourceId !== '' ? [sourceId] : [],
    targets: objectsIn(old.targets).map((target) => ({ ...target, when: null })),
  };
}

/** The id of the one consent that routes of before format 4 asked for. */
const ONLY_ASK = 'a1';

/**
 * To format 4: a route asks for any number of consents, by channel, and each target says which it needs; the system that
 * confirms is named; there are mails. A purpose was its own name, and that is its id.
 */
function withAsks(old: Loose): Loose {
  const { mode, purpose = '', tickField = '', ...consent } = isObject(old.consent) ? old.consent : {};
  return {
    ...old,
    targets: objectsIn(old.targets).map((target) => ({ ...target, needs: { ask: ONLY_ASK, channel: 'email' } })),
    consent: {
      ...consent,
      asks: [{ id: ONLY_ASK, purpose, channels: ['email'], tickField }],
      confirmedBy: { by: mode === 'double' ? 'iwashi' : 'nobody' },
    },
    mails: [],
  };
}

/**
 * To format 5: people go into any number of places; places and tags have ids and conditions; steps are objects. What was a tag by
 * answer is a tag under a condition.
 */
function withPlaces(old: Loose): Loose {
  return {
    ...old,
    targets: objectsIn(old.targets).map(({ list, group, tags, tagRules, ...target }) => ({
      ...target,
      places: placesOf(list, group).map((place) => ({ id: 'p1', ...place, when: null })),
      tags: [
        ...textsIn(tags).map((tag, index) => ({ id: `t${index + 1}`, tag, when: null })),
        ...objectsIn(tagRules).map(({ id, field, answer, tag }) => ({
          id,
          tag,
          when: { kind: 'test', id: `${String(id)}-is`, field, test: 'is', value: answer },
        })),
      ],
      lines: objectsIn(target.lines).map((line) => ({
        ...line,
        steps: textsIn(line.steps).map((kind) => ({ kind })),
      })),
    })),
  };
}

/** What steps of before format 6 are today. */
const STEPS_BEFORE: Record<string, Loose> = {
  'lower-case': { kind: 'case', options: { form: 'lower case' } },
  'first name': { kind: 'part of a name', options: { part: 'first name' } },
  'last name': { kind: 'part of a name', options: { part: 'all after the first name' } },
  'yes/no to 1/0': { kind: 'yes/no', options: { yes: '1', no: '0' } },
};

/** To format 6: steps have ids and are told how; lines say what becomes of nothing, and of a value that is there already. */
function withTold(old: Loose): Loose {
  return {
    ...old,
    targets: objectsIn(old.targets).map((target) => ({
      ...target,
      lines: objectsIn(target.lines).map((line) => ({
        ...line,
        steps: objectsIn(line.steps).map((step, index) => ({
          id: `s${index + 1}`,
          options: {},
          ...(STEPS_BEFORE[String(step.kind)] ?? step),
        })),
        whenEmpty: { kind: 'leave out' },
        overwrite: null,
      })),
    })),
  };
}

/** To format 7: targets may stand in a branch, lines may be for some people only, and warnings can be accepted. */
function withBranches(old: Loose): Loose {
  return {
    ...old,
    accepted: {},
    targets: objectsIn(old.targets).map((target) => ({
      ...target,
      branch: null,
      lines: objectsIn(target.lines).map((line) => ({ ...line, when: null })),
    })),
  };
}

/** The place that a list and a group in it are; none where there is no list. */
export const placesOf = (list: unknown, group: unknown): Place[] =>
  typeof list === 'string' && list !== '' ? [{ list, group: typeof group === 'string' ? group : '' }] : [];

const textsIn = (value: unknown): string[] =>
  Array.isArray(value) ? value.filter((one): one is string => typeof one === 'string') : [];

/** The id that a target of format 1 was given. @param index where it stood, from 0 */
export const targetIdAt = (index: number): string => `t${index + 1}`;
