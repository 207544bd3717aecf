import { Hono } from 'hono';
import { FeedInput, type FeedsView } from '../../../contract/imports.ts';
import { isoTime } from '../../../core/isoTime.ts';
import { changeFeed, endFeed, lookNow } from '../../commands/imports/changeFeed.ts';
import type { Context } from '../../context.ts';
import { feedFolder } from '../../importing/feeds.ts';
import { findFeed } from '../../store/feeds.ts';
import { findSource } from '../../store/sources.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound, readInput } from '../problems.ts';

/** How files come to sources by themselves. */
export function feedRoutes(context: Context): Hono<Session> {
  const app = new Hono<Session>();
  const { store, secrets } = context;

  async function viewOf(sourceId: string): Promise<FeedsView> {
    const source = await findSource(store.db, sourceId);
    if (source?.draft.kind !== 'file') throw notFound('source of files');
    const feed = await findFeed(store.db, sourceId);
    const folder = feedFolder(context, source);
    if (!feed) return { feed: null, folder };
    const { by, everyMinutes, takes, evidence, perMinute, problem } = feed;
    return {
      folder,
      feed: {
        by,
        address: feed.address === '' ? '' : withoutSecrets(secrets.open(feed.address)),
        everyMinutes,
        takes,
        evidence,
        perMinute,
        problem,
        askedAt: isoTime(feed.askedAt),
        broughtAt: isoTime(feed.broughtAt),
        nextAt: new Date(feed.dueAt).toISOString(),
      },
    };
  }

  app.get('/:id/feed', allow('sources:read'), async (c) => c.json(await viewOf(c.req.param('id'))));

  app.put('/:id/feed', allow('people:act'), async (c) => {
    const sourceId = c.req.param('id');
    outcome(await changeFeed(c.get('actor'), context, { sourceId, input: await readInput(c, FeedInput) }));
    return c.json(await viewOf(sourceId));
  });

  app.delete('/:id/feed', allow('people:act'), async (c) => {
    outcome(await endFeed(c.get('actor'), context, c.req.param('id')));
    return c.body(null, 204);
  });

  app.post('/:id/feed/look', allow('people:act'), async (c) => {
    outcome(await lookNow(c.get('actor'), context, c.req.param('id')));
    return c.json(await viewOf(c.req.param('id')));
  });

  return app;
}

/** An address without what may let anybody in: its password, and all that is asked of it. */
function withoutSecrets(address: string): string {
  const { protocol, host, pathname, search, username } = new URL(address);
  return `${protocol}//${username === '' ? '' : '••••••@'}${host}${pathname}${search === '' ? '' : '?••••••'}`;
}
