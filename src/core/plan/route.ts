import type { MapLine } from '../mapping/index.ts';

/** What happens to a person who is in the destination already. */
export const DUPLICATE_POLICIES = ['update', 'fill gaps', 'leave alone', 'add'] as const;
export type DuplicatePolicy = (typeof DUPLICATE_POLICIES)[number];

/** "When this field has this answer, set this tag." A tick's answer is `yes`. */
export interface TagRule {
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
}

/** One source wired to targets. */
export interface RouteDocument {
  sourceId: string;
  targets: Target[];
  consent: ConsentPolicy;
}
