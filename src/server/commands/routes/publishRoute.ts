import type { Result } from '../../../core/result.ts';
import type { Context } from '../../context.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import type { Db } from '../../store/database.ts';
import { findRoute, listRoutes, publishRoute as store } from '../../store/routes.ts';
import { archived, done, inCommand, nameOf, refused, unknown, type Actor, type Refusal } from '../command.ts';
import { routeChecker } from './checkRoutes.ts';

/** Freezes the draft as the next version and makes it live, unless preflight finds what keeps it from that. */
export async function publishRoute(
  actor: Actor,
  context: Context,
  { id, note = '' }: { id: string; note?: string },
): Promise<Result<void, Refusal>> {
  return inCommand(context, actor, async (db) => {
    const route = await findRoute(db, id);
    if (!route) return unknown('route');
    if (route.archivedAt !== null) return archived();
    const kept = await keptByPreflight(context, db, id, route.draft);
    if (kept) return kept;
    await store(db, route, context.now(), { note: note.trim(), byName: nameOf(actor) });
    const detail = [`Version ${(route.liveVersion ?? 0) + 1}.`, note.trim()].filter((text) => text !== '').join(' ');
    return done(undefined, { act: 'published', subject: { kind: 'route', id, name: route.name }, detail });
  });
}

/** What preflight finds that keeps a draft from going live; null where nothing does. */
export async function keptByPreflight(
  context: Context,
  db: Db,
  id: string,
  draft: RouteDocument,
): Promise<Result<never, Refusal> | null> {
  const findings = (await routeChecker(context, db, await listRoutes(db)))(id, draft);
  const blockers = findings.filter(({ level }) => level === 'blocker');
  if (blockers.length === 0) return null;
  const issues = blockers.map(({ part, message, fix }) => ({ pointer: `/${part}`, detail: `${message} ${fix}` }));
  return refused('invalid', 'not-ready', 'The route cannot go live yet.', issues);
}
