import {
  CHANNEL_WORDS,
  hasTakenBack,
  stateFor,
  type Channel,
  type ConsentEvent,
  type ConsentState,
} from '../consent/index.ts';
import type { Identified, KnownContact } from '../identity/index.ts';
import { plainField, type FieldValues, type SourceField } from '../values/index.ts';
import type { Catalogue } from './catalogue.ts';
import type { Intent } from './intent.ts';
import type { Plan } from './planned.ts';

/** What is known of a person when a submission of theirs is planned. */
export interface KnownPerson {
  contact: KnownContact | null;
  /** How they were recognised. */
  identified: Identified;
  consent: (ConsentEvent & { purpose: string; channel: Channel })[];
  /** Confirmations that were asked for and not given yet. */
  openConfirmations: { id: string; purposes: string[]; lastSentAt: number }[];
  /** What was last meant for them by each target, of all that was not dropped. */
  sent: {
    routeId: string;
    routeVersion: number;
    targetId: string;
    connectionId: string;
    arrived: boolean;
    intent: Intent;
  }[];
  /** The answers that went out to them lately. */
  answered: { routeId: string; mailId: string; at: number }[];
}

/** What is known of somebody who was never heard of. */
export const NOBODY: KnownPerson = {
  contact: null,
  identified: { sure: null, possible: [] },
  consent: [],
  openConfirmations: [],
  sent: [],
  answered: [],
};

/*
 * What is known of a person beside what they sent, as facts under ids that no field has. Each is yes, no, or not there: nobody
 * knows whether somebody is in a list to which we never delivered them.
 */

/** Whether they agreed to a purpose by a channel. */
export const agreedId = (purpose: string, channel: Channel): string => `@agreed ${purpose} ${channel}`;
/** Whether we put them into a list there. */
const inListId = (connectionId: string, list: string): string => `@in list ${connectionId} ${list}`;
/** Whether we set a tag on them there. */
const hasTagId = (connectionId: string, tag: string): string => `@has tag ${connectionId} ${tag}`;

/** Whoever has still to confirm, or was only asked, has not agreed. */
const AGREED = new Set<ConsentState>(['given', 'confirmed']);
/** Whether a state is one of somebody who agreed and did not take it back. */
export const agrees = (state: ConsentState): boolean => AGREED.has(state);

/** The facts of a person, by their ids. @param sent what was delivered, or is on its way */
export function knowledgeOf({ consent, sent }: Pick<KnownPerson, 'consent' | 'sent'>): FieldValues {
  const facts: FieldValues = {};
  for (const { purpose, channel } of consent) {
    const need = { purpose, channel };
    if (agrees(stateFor(consent, need))) facts[agreedId(purpose, channel)] = true;
    else if (hasTakenBack(consent, need)) facts[agreedId(purpose, channel)] = false;
  }
  for (const { connectionId, arrived, intent } of sent) {
    if (!arrived) continue;
    for (const { list } of intent.leaves) facts[inListId(connectionId, list)] = false;
    for (const { list } of intent.places) facts[inListId(connectionId, list)] = true;
    for (const tag of intent.tagsOff) facts[hasTagId(connectionId, tag)] = false;
    for (const tag of intent.tags) facts[hasTagId(connectionId, tag)] = true;
  }
  return facts;
}

/** What a plan has people agree to, as facts. */
export const agreedBy = ({ consent }: Pick<Plan, 'consent'>): FieldValues =>
  Object.fromEntries(
    consent.flatMap(({ kind, purpose, channel }) =>
      kind === 'given' &&
      !consent.some((other) => other.kind === 'asked' && other.purpose === purpose && other.channel === channel)
        ? [[agreedId(purpose, channel), true] as const]
        : [],
    ),
  );

/** The facts as fields, so that conditions can ask for them and say them. */
export function knowledgeFields(
  purposes: { id: string; name: string; channels: Channel[] }[],
  connections: { id: string; name: string; catalogue: Catalogue | null }[],
): SourceField[] {
  const fact = (id: string, label: string): SourceField => ({ ...plainField(id, 'yes/no'), label });
  return [
    ...purposes.flatMap(({ id, name, channels }) =>
      channels.map((channel) => fact(agreedId(id, channel), `has agreed to ${name} by ${CHANNEL_WORDS[channel]}`)),
    ),
    ...connections.flatMap(({ id, name, catalogue }) => [
      ...(catalogue?.lists ?? []).map((list) => fact(inListId(id, list.id), `was put into ${list.name} in ${name}`)),
      ...(catalogue?.can.tags ? catalogue.tags : []).map((tag) =>
        fact(hasTagId(id, tag.name), `was given the tag ${tag.name} in ${name}`),
      ),
    ]),
  ];
}
