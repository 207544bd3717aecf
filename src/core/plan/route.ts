import { objectsIn, presentFormat, upToDate, type DocumentIssue, type Format, type Loose } from '../documents/index.ts';
import type { Condition } from '../conditions/index.ts';
import type { MapLine } from '../mapping/index.ts';
import type { Result } from '../result.ts';

/** What happens to a person who is in the destination already. */
export const DUPLICATE_POLICIES = ['update', 'fill gaps', 'leave alone', 'add'] as const;
export type DuplicatePolicy = (typeof DUPLICATE_POLICIES)[number];

/** "When this field has this answer, set this tag." A tick's answer is `yes`. */
export interface TagRule {
  id: string;
  field: string;
  answer: string;
  tag: string;
}

/** A list, or a group in it; group '' means the list itself. */
export interface Place {
  list: string;
  group: string;
}

/** One connection and place within a route. */
export interface Target {
  /** Outlives renaming and reordering: deliveries remember it. */
  id: string;
  /** Who goes there; null for everybody. */
  when: Condition | null;
  connectionId: string;
  /** Id of the kind of record there; '' where there is but one. */
  kind: string;
  /** Ids of the destination's list and group; '' for none. */
  list: string;
  group: string;
  /** Names of tags set on everybody. */
  tags: string[];
  tagRules: TagRule[];
  /** Places that people are taken out of, and tags that are taken off them. */
  leaves: Place[];
  tagsOff: string[];
  lines: MapLine[];
  duplicates: DuplicatePolicy;
}

export interface ConsentPolicy {
  /** single: the form is enough. double: Iwashi sends a confirmation, and delivers once it is confirmed. */
  mode: 'single' | 'double';
  /** What the consent is for, as people know it: "newsletter". */
  purpose: string;
  /** The tick field that gives it; '' when sending the form does, under the source's statement. */
  tickField: string;
  mail: { subject: string; body: string; button: string };
  expiresHours: number;
  /**
   * What becomes of changes to somebody who confirmed before: anybody who knows an address can send a form with it.
   * ask: they wait for a confirmation, or where the route asks for none only gaps are filled. at once: as sent.
   */
  changes: 'ask' | 'at once';
}

/** Sources wired to targets. Sources of one route have fields of the same ids. */
export interface RouteDocument {
  format: number;
  sourceIds: string[];
  targets: Target[];
  consent: ConsentPolicy;
}

const ROUTE: Format = { what: 'route', upgrades: [withIds, withConditions] };

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

/** The id that a target of format 1 was given. @param index where it stood, from 0 */
export const targetIdAt = (index: number): string => `t${index + 1}`;
