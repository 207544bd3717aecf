import type { RouteView } from '../../../contract/route.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import type { RoutePart } from './routeParts.ts';
import { partOfTarget } from './routeParts.ts';

/** One thing to do until a route is live and proved. */
export interface Task {
  text: string;
  isDone: boolean;
  /** Where it is done; null for what has a button of its own. */
  part: RoutePart | null;
}

/** What there is to do on a route, in the order of the work. Nothing keeps anybody from another order. */
export function tasksOf(
  document: RouteDocument,
  { findings, state, changed, proof }: Pick<RouteView, 'findings' | 'state' | 'changed' | 'proof'>,
): Task[] {
  const { sourceIds, targets, consent } = document;
  const [first] = targets;
  const isClear = (...parts: string[]) =>
    !findings.some(({ level, part }) => level === 'blocker' && parts.includes(part));
  const mapping = first ? partOfTarget(first.id) : 'add';
  return [
    { text: 'choose where submissions come from', isDone: sourceIds.length > 0 && isClear('source'), part: 'source' },
    { text: 'choose where people go', isDone: targets.length > 0, part: 'add' },
    {
      text: 'choose the list and who goes there',
      isDone:
        targets.length > 0 &&
        isClear('target') &&
        targets.some(({ places, lines }) => places.length + lines.length > 0),
      part: mapping,
    },
    { text: 'map what is required there', isDone: targets.length > 0 && isClear('mapping', 'tags'), part: mapping },
    {
      text: 'decide consent',
      isDone: isClear('consent') && consent.asks.every(({ purpose }) => purpose !== ''),
      part: 'consent',
    },
    { text: 'send a test person', isDone: proof?.state === 'proved' && !proof.stale, part: null },
    { text: 'publish it', isDone: state !== 'draft' && !changed, part: null },
  ];
}
