import { isPath, one, textAt, STEPS_BESIDE, withinSteps } from '../json/index.ts';
import { goneFrom, learn, NO_SHAPE, type Gone, type Shape } from './shape.ts';
import { isZone } from './openTimes.ts';
import { foundFor, partsOf, wholesOf, type Located } from './places.ts';
import type { PostedDocument } from './source.ts';
import type { EventAct } from './webhookParts.ts';

/** One submission of a payload, with the whole that it is in. */
export interface Part {
  whole: Located;
  part: Located;
}

/** The submissions in a payload, of every kind of event. */
export const allParts = (document: PostedDocument, json: unknown): Part[] =>
  withinSteps(
    () => wholesOf(document, json).flatMap((whole) => partsOf(document, whole).map((part) => ({ whole, part }))),
    STEPS_BESIDE,
  );

/** What each submission in a payload is read from, by itself: the part, which is the whole where a payload is one. */
export const samplesIn = (document: PostedDocument, json: unknown): unknown[] =>
  allParts(document, json).map(({ part }) => part.value);

/** What stands at a path of the document in a part, as text; '' for nothing. */
function saidAt(path: string, { whole, part }: Part): string {
  if (path === '') return '';
  const [found] = foundFor({ path, key: '' }, whole, part);
  return textAt({ found: found?.value }, '$.found');
}

/** The kind of the event that a part tells. */
export const eventKindOf = ({ events }: Pick<PostedDocument, 'events'>, part: Part): string =>
  saidAt(events.path, part).slice(0, 120);

/** A draft as far as it can be used: paths that are none, since somebody is still typing them, are left out. */
export function asUsable(document: PostedDocument): PostedDocument {
  const usable = (path: string) => (path !== '' && isPath(path.replace(/^@/, '$')) ? path : '');
  return {
    ...document,
    each: usable(document.each),
    idPath: usable(document.idPath),
    events: { ...document.events, path: usable(document.events.path) },
    challenge:
      document.challenge.by === 'body'
        ? { ...document.challenge, name: usable(document.challenge.name) }
        : document.challenge,
    fields: document.fields.map((field) => ({ ...field, path: usable(field.path) })),
    ...(document.kind === 'registration'
      ? {
          membershipPaths: {
            level: usable(document.membershipPaths.level),
            begins: usable(document.membershipPaths.begins),
            ends: usable(document.membershipPaths.ends),
          },
          zone: isZone(document.zone) ? document.zone : 'UTC',
        }
      : {}),
  };
}

/** What becomes of an event of a kind. */
export function actOf({ events }: Pick<PostedDocument, 'events'>, kind: string): EventAct {
  if (events.path === '') return 'take';
  return events.known.find((one) => one.kind === kind)?.act ?? events.others;
}

/** The parts of a payload that are taken. */
export const takenParts = (document: PostedDocument, json: unknown): Part[] =>
  withinSteps(
    () => allParts(document, json).filter((part) => actOf(document, eventKindOf(document, part)) === 'take'),
    STEPS_BESIDE,
  );

/** The kinds of the events in a payload, in their order; of what is not taken as well. */
export const eventKindsIn = (document: PostedDocument, json: unknown): string[] =>
  document.events.path === ''
    ? []
    : withinSteps(() => allParts(document, json).map((part) => eventKindOf(document, part)), STEPS_BESIDE);

/** By what each part that is taken is told from its repetition; '' for those without. Two kinds of events may share ids. */
export const idsIn = (document: PostedDocument, json: unknown): string[] =>
  withinSteps(
    () =>
      takenParts(document, json).map((part) => {
        const id = saidAt(document.idPath, part);
        return id === '' ? '' : JSON.stringify([eventKindOf(document, part), id]);
      }),
    STEPS_BESIDE,
  );

/** What was learnt of one kind of event that came to an address. Times are milliseconds since 1970. */
export interface KindLearnt {
  came: number;
  lastAt: number;
  shape: Shape;
}

/** What does not come any more with events of a kind. */
export interface GoneOfKind extends Gone {
  kind: string;
}

export const goneOf = (learnt: Record<string, KindLearnt>): GoneOfKind[] =>
  Object.entries(learnt).flatMap(([kind, { shape }]) => goneFrom(shape).map((gone) => ({ kind, ...gone })));

/** So many kinds are told apart in what is learnt; what names more has something else in that place. */
const MOST_KINDS = 60;

/** What is known of the kinds of events at an address, after one more payload; those that are ignored among them. */
export function learnFrom(
  learnt: Record<string, KindLearnt>,
  document: PostedDocument,
  json: unknown,
  at: number,
): Record<string, KindLearnt> {
  return withinSteps(() => {
    const next = new Map(Object.entries(learnt));
    for (const one of allParts(document, json)) {
      const kind = eventKindOf(document, one);
      const before = next.get(kind) ?? { came: 0, lastAt: at, shape: NO_SHAPE };
      if (before.came === 0 && next.size >= MOST_KINDS) continue;
      next.set(kind, { came: before.came + 1, lastAt: at, shape: learn(before.shape, one.part.value, at) });
    }
    return Object.fromEntries(next);
  });
}

/** A path into what is learnt of a payload, as fields of the document write it. */
export const asFieldPath = ({ each }: Pick<PostedDocument, 'each'>, path: string): string =>
  each === '' ? path : path.replace(/^\$/, '@');

/** What a body asks to be said back; null where it asks for nothing. */
export function challengeIn({ challenge }: Pick<PostedDocument, 'challenge'>, json: unknown): string | null {
  if (challenge.by !== 'body' || challenge.name === '') return null;
  const asked = one(json, challenge.name);
  return typeof asked === 'string' || typeof asked === 'number' ? String(asked) : null;
}
