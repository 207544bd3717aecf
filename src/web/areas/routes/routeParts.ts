import type { RouteView } from '../../../contract/route.ts';
import type { Finding, RouteDocument } from '../../../core/plan/index.ts';

/** Which part of a route is worked on: as it stands in the URL. */
export type RoutePart =
  'source' | 'consent' | 'mails' | 'add' | 'samples' | 'versions' | 'sendings' | `target ${string}`;

/** The parts that are there whatever the route leads to. */
const WITHOUT_TARGET = ['source', 'consent', 'mails', 'add', 'samples', 'versions', 'sendings'] as const;

export const partOfTarget = (id: string): RoutePart => `target ${id}`;

/** The part that a URL names, or where the work begins: the first target, or what has to be chosen first. */
export function partIn(asked: string, { sourceIds, targets }: RouteDocument): RoutePart {
  const target = targets.find(({ id }) => asked === partOfTarget(id));
  if (target) return partOfTarget(target.id);
  const own = WITHOUT_TARGET.find((part) => part === asked);
  if (own) return own;
  if (sourceIds.length === 0) return 'source';
  return targets[0] ? partOfTarget(targets[0].id) : 'add';
}

/** Where the work on a route begins. */
export const firstPart = (document: RouteDocument): RoutePart => partIn('', document);

/** Where a finding is mended. */
export function partOfFinding({ part, target }: Finding, { targets }: RouteDocument): RoutePart {
  if (part === 'source' || part === 'consent' || part === 'mails') return part;
  const own = targets[target ?? 0];
  return own ? partOfTarget(own.id) : 'add';
}

/** The findings that concern each part, without those that somebody lets stand. */
export function findingsByPart(findings: Finding[], document: RouteDocument): Map<RoutePart, Finding[]> {
  const byPart = new Map<RoutePart, Finding[]>();
  for (const finding of findings.filter(({ accepted }) => accepted === undefined)) {
    const part = partOfFinding(finding, document);
    byPart.set(part, [...(byPart.get(part) ?? []), finding]);
  }
  return byPart;
}

/** What each target is called: by its connection, with a number where one has several. */
export function targetNames({ draft, targetNames: names }: Pick<RouteView, 'draft' | 'targetNames'>): string[] {
  return draft.targets.map((_, index) => {
    const name = names[index] ?? 'Target';
    const same = names.filter((one) => one === name);
    return same.length < 2 ? name : `${name} (${names.slice(0, index + 1).filter((one) => one === name).length})`;
  });
}
