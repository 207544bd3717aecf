import type { RouteLine } from '../../../contract/entries.ts';

/** What the checks of a route say where they found nothing: *clear* of one that they look at; null where there is something. */
export function checksWord({
  blockers,
  warnings,
  archivedAt,
}: Pick<RouteLine, 'blockers' | 'warnings' | 'archivedAt'>): string | null {
  if (archivedAt !== null) return 'not looked at';
  return blockers + warnings === 0 ? 'clear' : null;
}
