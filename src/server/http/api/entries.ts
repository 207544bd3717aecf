import { Hono } from 'hono';
import { EntryInput, type EntryKind } from '../../../contract/entries.ts';
import {
  archiveEntry,
  removeEntry,
  deletionImpactOf,
  type ArchivableKind,
} from '../../commands/entries/archiveAndDelete.ts';
import { nameEntry } from '../../commands/entries/nameEntry.ts';
import type { Context } from '../../context.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, readInput } from '../problems.ts';

const LISTS = { source: 'sources', route: 'routes', connection: 'connections' } as const;

/** What is the same for the entries of every list: their lines, their names, their folders. */
export function entryRoutes(
  context: Context,
  kind: EntryKind,
  lines: (context: Context) => Promise<object[]>,
): Hono<Session> {
  const app = new Hono<Session>();
  app.get('/lines', allow(`${LISTS[kind]}:read`), async (c) => c.json(await lines(context)));
  app.put('/:id/name', allow(`${LISTS[kind]}:write`), async (c) => {
    const { name, folder } = await readInput(c, EntryInput);
    outcome(await nameEntry(c.get('actor'), context, { kind, id: c.req.param('id'), name, folder }));
    return c.body(null, 204);
  });
  return app;
}

/** Putting aside, taking out again and deleting: the same for sources and routes. @param viewOf what is answered of one */
export function archiveAndDeleteRoutes(
  context: Context,
  kind: ArchivableKind,
  viewOf: (id: string) => Promise<object>,
): Hono<Session> {
  const app = new Hono<Session>();
  for (const [path, away] of [
    ['/:id/archive', true],
    ['/:id/restore', false],
  ] as const)
    app.post(path, allow(`${LISTS[kind]}:write`), async (c) => {
      const id = c.req.param('id');
      outcome(await archiveEntry(c.get('actor'), context, { kind, id, away }));
      return c.json(await viewOf(id));
    });
  app.get('/:id/stops', allow(`${LISTS[kind]}:read`), async (c) => {
    const stops = await deletionImpactOf(context, kind, c.req.param('id'));
    if (!stops) throw notFound(kind);
    return c.json(stops);
  });
  app.delete('/:id', allow(`${LISTS[kind]}:write`), async (c) => {
    outcome(await removeEntry(c.get('actor'), context, { kind, id: c.req.param('id') }));
    return c.body(null, 204);
  });
  return app;
}
