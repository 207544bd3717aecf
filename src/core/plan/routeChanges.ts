import { dequal } from 'dequal';
import { inSentence, type Condition } from '../conditions/index.ts';
import { CHANNEL_WORDS } from '../consent/index.ts';
import { stepInWords, withNames, type LineOrigin, type MapLine } from '../mapping/index.ts';
import type { SourceField } from '../values/index.ts';
import type { RouteDocument, RouteMail, Target } from './route.ts';

/** What the parts of a route are called. */
export interface RouteNames {
  /** By the ids of sources, connections and purposes. */
  names: Record<string, string>;
  /** Everything that can be drawn on or asked for. */
  fields: SourceField[];
  /** The label of a field there. */
  fieldThere: (connectionId: string, key: string) => string;
  /** The name of a list or group there. */
  placeThere: (connectionId: string, id: string) => string;
}

/** What is different in one version of a route than in another, in sentences, in the order of the work. */
export function routeChanges(before: RouteDocument, after: RouteDocument, called: RouteNames): string[] {
  return [
    ...sourceChanges(before, after, called),
    ...consentChanges(before, after, called),
    ...partChanges(before.targets, after.targets, {
      added: (target) => `${nameOf(target, called)} was added, ${forWhom(target.when, called)}.`,
      removed: (target) => `${nameOf(target, called)} was taken away.`,
      changed: (old, now) => targetChanges(old, now, called).map((text) => `${nameOf(now, called)}: ${text}`),
    }),
    ...orderChanges(before, after),
    ...partChanges(before.mails, after.mails, {
      added: ({ subject }) => `The mail "${subject}" was added.`,
      removed: ({ subject }) => `The mail "${subject}" was taken away.`,
      changed: mailChanges,
    }),
    ...Object.keys(after.accepted)
      .filter((key) => before.accepted[key] !== after.accepted[key])
      .map((key) => `Let stand, since "${after.accepted[key]}": ${key.slice(key.indexOf(': ') + 2)}`),
  ];
}

const nameOf = ({ connectionId }: Target, { names }: RouteNames): string => names[connectionId] ?? 'a connection';

function sourceChanges(before: RouteDocument, after: RouteDocument, { names }: RouteNames): string[] {
  const added = after.sourceIds.filter((id) => !before.sourceIds.includes(id));
  const gone = before.sourceIds.filter((id) => !after.sourceIds.includes(id));
  return [
    ...added.map((id) => `It takes ${names[id] ?? 'another source'} as well.`),
    ...gone.map((id) => `It takes ${names[id] ?? 'a source'} no more.`),
  ];
}

const CONFIRMS = { nobody: 'nobody confirms', iwashi: 'Iwashi has people confirm', target: 'a destination confirms' };

function consentChanges(
  { consent: before }: RouteDocument,
  { consent: after }: RouteDocument,
  called: RouteNames,
): string[] {
  const purpose = (id: string) => called.names[id] ?? 'a purpose to be chosen';
  return [
    ...partChanges(before.asks, after.asks, {
      added: (ask) => `People are asked for consent to ${purpose(ask.purpose)}.`,
      removed: (ask) => `Nobody is asked for consent to ${purpose(ask.purpose)} any more.`,
      changed: (_, ask) => [
        `Consent is to ${purpose(ask.purpose)}, by ${ask.channels.map((one) => CHANNEL_WORDS[one]).join(' and ')}.`,
      ],
    }),
    ...(dequal(before.confirmedBy, after.confirmedBy)
      ? []
      : [`Who confirms: ${CONFIRMS[after.confirmedBy.by]}; before, ${CONFIRMS[before.confirmedBy.by]}.`]),
    ...(dequal(before.mail, after.mail) ? [] : ['The confirmation mail has other words.']),
    ...(before.expiresHours === after.expiresHours
      ? []
      : [`The link in it is valid for ${after.expiresHours} hours; before, ${before.expiresHours}.`]),
    ...(before.changes === after.changes
      ? []
      : [
          after.changes === 'at once'
            ? 'Changes to confirmed people are made at once.'
            : 'Changes to confirmed people wait for a confirmation.',
        ]),
  ];
}

function targetChanges(before: Target, after: Target, called: RouteNames): string[] {
  const there = (key: string) => `“${called.fieldThere(after.connectionId, key)}”`;
  const place = ({ list, group }: { list: string; group: string }) =>
    called.placeThere(after.connectionId, group || list);
  return [
    ...(dequal(before.when, after.when)
      ? []
      : [`people go there ${after.when === null ? 'in any case' : forWhom(after.when, called)}.`]),
    ...(before.kind === after.kind ? [] : [`records are of another kind.`]),
    ...(before.duplicates === after.duplicates
      ? []
      : [`who is there already: ${after.duplicates}; before, ${before.duplicates}.`]),
    ...(dequal(before.needs, after.needs)
      ? []
      : [after.needs ? `it needs consent by ${CHANNEL_WORDS[after.needs.channel]}.` : 'it needs no consent.']),
    ...(before.branch === after.branch
      ? []
      : [after.branch === null ? 'it stands by itself.' : 'it is one of several of which one is taken.']),
    ...partChanges(before.places, after.places, {
      added: (one) => `people go into ${place(one)}, ${forWhom(one.when, called)}.`,
      removed: (one) => `nobody goes into ${place(one)} any more.`,
      changed: (_, one) => [`people go into ${place(one)}, ${forWhom(one.when, called)}.`],
    }),
    ...partChanges(before.lines, after.lines, {
      added: (line) => `${there(line.to)} is filled from ${lineInWords(line, called)}.`,
      removed: (line) => `${there(line.to)} is not filled any more.`,
      changed: (old, now) => [
        `${there(now.to)} is filled from ${lineInWords(now, called)}; before, from ${lineInWords(old, called)}.`,
      ],
    }),
    ...partChanges(before.tags, after.tags, {
      added: ({ tag, when }) => `the tag "${tag}" is set, ${forWhom(when, called)}.`,
      removed: ({ tag }) => `the tag "${tag}" is not set any more.`,
      changed: (_, { tag, when }) => [`the tag "${tag}" is set, ${forWhom(when, called)}.`],
    }),
    ...(dequal(before.leaves, after.leaves)
      ? []
      : [`people are taken out of ${after.leaves.map(place).join(', ') || 'nothing'}.`]),
    ...(dequal(before.tagsOff, after.tagsOff) ? [] : [`tags taken off: ${after.tagsOff.join(', ') || 'none'}.`]),
  ];
}

function orderChanges(before: RouteDocument, after: RouteDocument): string[] {
  const both = (document: RouteDocument, other: RouteDocument) =>
    document.targets.map(({ id }) => id).filter((id) => other.targets.some((one) => one.id === id));
  return dequal(both(before, after), both(after, before)) ? [] : ['The targets stand in another order.'];
}

const mailChanges = (before: RouteMail, after: RouteMail): string[] => [
  ...(dequal(before.to, after.to) ? [] : [`The mail "${after.subject}" goes to ${after.to.join(', ') || 'nobody'}.`]),
  ...(dequal({ ...before, to: [] }, { ...after, to: [] }) ? [] : [`The mail "${after.subject}" is another one.`]),
];

const forWhom = (when: Condition | null, { fields }: RouteNames): string =>
  when === null ? 'for everybody' : `only if ${inSentence(when, fields)}`;

function lineInWords(line: MapLine, called: RouteNames): string {
  const { from, steps, when, whenEmpty, overwrite } = line;
  return [
    originInWords(from, called),
    ...(steps.length > 0 ? [`by ${steps.map(stepInWords).join(', ')}`] : []),
    ...(whenEmpty.kind === 'leave out'
      ? []
      : [whenEmpty.kind === 'clear' ? '(cleared when empty)' : `(or else "${whenEmpty.value}")`]),
    ...(overwrite ? [`(if there already: ${overwrite})`] : []),
    ...(when ? [forWhom(when, called)] : []),
  ].join(' ');
}

function originInWords(from: LineOrigin, { fields }: RouteNames): string {
  const label = (id: string) => `“${fields.find((field) => field.id === id)?.label ?? id}”`;
  switch (from.kind) {
    case 'field':
      return label(from.field);
    case 'first':
      return `the first of ${from.fields.map(label).join(', ')}`;
    case 'fixed':
      return `the value "${from.value}"`;
    case 'text':
      return `the text "${withNames(from.text, fields)}"`;
    default:
      return from satisfies never;
  }
}

/** Compares parts by their ids. */
function partChanges<Part extends { id: string }>(
  before: Part[],
  after: Part[],
  say: { added: (part: Part) => string; removed: (part: Part) => string; changed: (old: Part, now: Part) => string[] },
): string[] {
  const old = new Map(before.map((part) => [part.id, part]));
  const now = new Set(after.map(({ id }) => id));
  return [
    ...after.flatMap((part) => {
      const was = old.get(part.id);
      if (!was) return [say.added(part)];
      return dequal(was, part) ? [] : say.changed(was, part);
    }),
    ...before.filter(({ id }) => !now.has(id)).map((part) => say.removed(part)),
  ];
}
