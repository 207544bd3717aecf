import { dequal } from 'dequal';
import { hasTakenBack } from '../consent/index.ts';
import type { ContactKey } from '../identity/index.ts';
import type { Visit } from '../intake/index.ts';
import type { FieldValues } from '../values/index.ts';
import type { KnownPerson, PlanInput } from './input.ts';
import { planSubmission } from './plan.ts';
import { deliveriesIn, type Plan } from './planned.ts';
import type { RouteDocument } from './route.ts';

/** A submission with what is known of whom it is of, as far as they were known when it was read. */
export interface KnownSample {
  id: string;
  receivedAt: string;
  values: FieldValues;
  visit: Visit;
  keys: ContactKey[];
  known: KnownPerson;
}

/** What is odd about a sample, the oddest first; 'as meant' for nothing. */
export const ODDITIES = [
  'held',
  'refused',
  'changes somebody',
  'differs from live',
  'nothing sent',
  'as meant',
] as const;
export type Oddity = (typeof ODDITIES)[number];

/** One sample, and what the draft makes of it. */
export interface SampleRow {
  id: string;
  receivedAt: string;
  /** By what the person is known: an address, a number or an id; '' for nobody. */
  who: string;
  oddity: Oddity;
  /** Why, in a sentence. */
  why: string;
  /** How many deliveries there would be. */
  deliveries: number;
}

/** What samples are judged with: a draft, and what is live, if anything is. */
export interface Judging extends Pick<
  PlanInput,
  'fields' | 'statement' | 'trust' | 'imported' | 'tells' | 'catalogues' | 'knowledge' | 'now'
> {
  draft: RouteDocument;
  live: RouteDocument | null;
}

/** Says what the draft makes of one sample. Pure: the same for the same. */
export function judgeSample({ id, receivedAt, values, visit, keys, known }: KnownSample, judging: Judging): SampleRow {
  const { draft, live, ...about } = judging;
  const planOf = (document: RouteDocument): Plan =>
    planSubmission({
      ...about,
      values,
      visit,
      keys,
      known,
      routes: [{ id: 'r', name: 'The route', version: 1, document }],
    });
  const plan = planOf(draft);
  const deliveries = deliveriesIn(plan);
  const [oddity, why] = oddityOf(plan, known, () => live && planOf(live));
  return { id, receivedAt, who: keys[0]?.value ?? '', oddity, why, deliveries: deliveries.length };
}

function oddityOf(plan: Plan, known: KnownPerson, live: () => Plan | null): [Oddity, string] {
  const deliveries = deliveriesIn(plan);
  const held = deliveries.find((one) => one.held !== null)?.held;
  if (held) return ['held', held.message];
  const left = deliveries.find(({ intent: { purpose, channel } }) => hasTakenBack(known.consent, { purpose, channel }));
  if (left)
    return ['refused', 'They withdrew their consent; a destination may not take them back before they confirm.'];
  const changed = plan.contact?.changes.filter(({ from }) => from !== null) ?? [];
  if (changed.length > 0)
    return [
      'changes somebody',
      `Of somebody known: ${changed.map(({ name }) => name.replaceAll('_', ' ')).join(', ')}.`,
    ];
  const before = live();
  if (before) {
    const difference = differenceOf(before, plan);
    if (difference !== '') return ['differs from live', difference];
  }
  if (deliveries.length === 0) return ['nothing sent', plan.notes[0]?.text ?? 'No target is for them.'];
  return ['as meant', ''];
}

/** What a draft does otherwise than what is live; '' for nothing. */
function differenceOf(live: Plan, draft: Plan): string {
  const before = new Map(deliveriesIn(live).map((one) => [one.targetId, one.intent]));
  const after = new Map(deliveriesIn(draft).map((one) => [one.targetId, one.intent]));
  const added = [...after.keys()].filter((id) => !before.has(id)).length;
  const gone = [...before.keys()].filter((id) => !after.has(id)).length;
  if (added > 0 || gone > 0)
    return [added > 0 ? `${added} more than live.` : '', gone > 0 ? `${gone} fewer than live.` : ''].join(' ').trim();
  for (const [id, intent] of after) {
    const old = before.get(id);
    if (dequal(old, intent)) continue;
    const keys = Object.keys({ ...old?.fields, ...intent.fields }).filter(
      (key) => !dequal(old?.fields[key], intent.fields[key]),
    );
    return keys.length > 0 ? `Other values: ${keys.join(', ')}.` : 'Other places or tags.';
  }
  return '';
}

/** The odd ones first, each sort as it came. */
export const oddFirst = (rows: SampleRow[]): SampleRow[] =>
  [...rows].sort((a, b) => ODDITIES.indexOf(a.oddity) - ODDITIES.indexOf(b.oddity));

/** So many at once, that the first are there soon, and that a new edit is heard of between. */
const AT_ONCE = 20;

/**
 * Judges many samples, some at a time.
 * @param how.post takes what was judged @param how.pause lets others have their turn @param how.isOver whether a later edit has begun
 */
export async function judgeAll(
  samples: KnownSample[],
  judging: Judging,
  how: { post: (rows: SampleRow[], isLast: boolean) => void; pause: () => Promise<void>; isOver: () => boolean },
): Promise<void> {
  for (let at = 0; at === 0 || at < samples.length; at += AT_ONCE) {
    if (how.isOver()) return;
    how.post(
      samples.slice(at, at + AT_ONCE).map((sample) => judgeSample(sample, judging)),
      at + AT_ONCE >= samples.length,
    );
    await how.pause();
  }
}
