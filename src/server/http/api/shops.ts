import { Hono } from 'hono';
import type { ShopChoice, ShopFinding, ShopView } from '../../../contract/shops.ts';
import type { ShopDocument } from '../../../core/intake/index.ts';
import { fetchCustomers } from '../../commands/imports/fetchCustomers.ts';
import { listenAnew } from '../../commands/connections/listenThere.ts';
import { readCheckout } from '../../commands/sources/connectShop.ts';
import { profileFor } from '../../connecting/profiles.ts';
import type { Context } from '../../context.ts';
import { listConnections } from '../../store/connections.ts';
import { askSoon, shopOfConnection } from '../../store/shops.ts';
import type { SourceRecord } from '../../store/sources.ts';
import { lookAtShop } from '../../watching/shopFindings.ts';
import { shopView } from '../../watching/shops.ts';
import { allow, type Session } from '../gates.ts';
import { outcome } from '../outcome.ts';
import { notFound } from '../problems.ts';

/** Shops that are sources. @param must finds a source, or answers that there is none */
export function shopRoutes(context: Context, must: (id: string) => Promise<SourceRecord>): Hono<Session> {
  const app = new Hono<Session>();
  const { store } = context;

  async function mustShop(id: string): Promise<{ source: SourceRecord; document: ShopDocument }> {
    const source = await must(id);
    const document = source.live ?? source.draft;
    if (document.kind !== 'shop') throw notFound('shop');
    return { source, document };
  }

  /** The connections of which a source can be made. */
  app.get('/shops', allow('sources:read'), async (c) => {
    const shops = (await listConnections(store.db)).filter((connection) => profileFor(connection).shop);
    const choices = shops.map(async ({ id, name }) => ({ id, name, sourceId: await shopOfConnection(store.db, id) }));
    return c.json((await Promise.all(choices)) satisfies ShopChoice[]);
  });

  app.get('/:id/shop', allow('sources:read'), async (c) => {
    const { source, document } = await mustShop(c.req.param('id'));
    return c.json((await shopView(context, source, document)) satisfies ShopView);
  });

  /** Asks the shop itself what may be wrong, which takes a moment. */
  app.get('/:id/shop/findings', allow('sources:read'), async (c) => {
    const { source, document } = await mustShop(c.req.param('id'));
    return c.json((await lookAtShop(context, source, document)) satisfies ShopFinding[]);
  });

  app.post('/:id/shop/listen', allow('connections:write'), async (c) => {
    const { source, document } = await mustShop(c.req.param('id'));
    outcome(await listenAnew(c.get('actor'), context, document.connectionId));
    return c.json(await shopView(context, source, document));
  });

  app.post('/:id/shop/check-out', allow('sources:write'), async (c) => {
    outcome(await readCheckout(c.get('actor'), context, c.req.param('id')));
    const { source, document } = await mustShop(c.req.param('id'));
    return c.json(await shopView(context, source, document));
  });

  /** Has the shop asked at once for what it did not tell. */
  app.post('/:id/shop/ask', allow('sources:write'), async (c) => {
    const { source, document } = await mustShop(c.req.param('id'));
    await askSoon(store.db, source.id);
    return c.json(await shopView(context, source, document));
  });

  app.post('/:id/shop/customers', allow('people:act'), async (c) => {
    const { source } = await mustShop(c.req.param('id'));
    const id = outcome(await fetchCustomers(c.get('actor'), context, source.id));
    return c.json({ id }, 201);
  });

  return app;
}
