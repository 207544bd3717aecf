import { Hono, type Context } from 'hono';
import { Faults } from '../faults.ts';
import { insideRoutes, type Inside } from '../inside.ts';
import { shopApi } from './api.ts';
import { Bells } from './bells.ts';
import { accountPage, boughtPage, checkoutPage, deskPage, leftPage, registerPage } from './pages.ts';
import type { Channel, ShopState } from './state.ts';
import { Trade, type Buyer } from './trade.ts';

/** The whole stand-in: a shop with a check-out, its API, its admin addresses. */
export function fennelFoxApp(inside: Inside<ShopState>): Hono {
  const faults = new Faults();
  const state = () => inside.state;
  const trade = new Trade(state, new Bells(state));
  const app = new Hono();
  app.route('/', faults.routes());
  app.route('/', insideRoutes(inside));
  app.use('/till/*', faults.middleware());
  app.route('/till', shopApi(state, inside.changed, trade));
  app.all('/till/*', (c) => c.json({ trouble: { code: 'nothing', message: 'There is nothing here.' } }, 404));

  app.get('/', (c) => c.html(checkoutPage(state(), c.req.query())));
  app.post('/buy', async (c) => {
    const sent = await formOf(c);
    const order = trade.buy(buyerIn(sent), countsIn(sent, state()), {
      ticked: ticksIn(sent),
      trial: sent.get('trial') === 'yes',
    });
    inside.changed();
    return c.html(boughtPage(state(), order));
  });
  app.post('/leave', async (c) => {
    const sent = await formOf(c);
    // Whom nobody knows cannot be told of.
    if (buyerIn(sent).address !== '') trade.leaveBasket(buyerIn(sent), countsIn(sent, state()));
    inside.changed();
    return c.html(leftPage(state()));
  });
  app.get('/register', (c) => c.html(registerPage(state(), false)));
  app.post('/register', async (c) => {
    const sent = await formOf(c);
    trade.register(buyerIn(sent), ticksIn(sent));
    inside.changed();
    return c.html(registerPage(state(), true));
  });
  app.get('/account', (c) => {
    const address = c.req.query('address') ?? '';
    return c.html(accountPage(state(), trade.find(address), address));
  });
  app.post('/account/:no/:channel{email|sms}', async (c) => {
    const customer = state().customers.find(({ no }) => no === c.req.param('no'));
    if (!customer) return c.notFound();
    const says = (await formOf(c)).get('says') === 'yes' ? 'yes' : 'no';
    const channel = c.req.param('channel') as Channel;
    const box = state().boxes.find((one) => one.channel === channel);
    trade.say(customer, channel, says, says === 'yes' ? (box?.words ?? '') : 'Stopped in the account.');
    inside.changed();
    return c.redirect(`/account?address=${encodeURIComponent(customer.address)}`, 303);
  });
  app.get('/desk', (c) => c.html(deskPage(state())));
  app.post('/desk/boxes/:channel{email|sms}', (c) => {
    const box = state().boxes.find(({ channel }) => channel === c.req.param('channel'));
    if (box) box.shown = !box.shown;
    inside.changed();
    return c.redirect('/desk', 303);
  });
  app.post('/desk/bells/:id', (c) => {
    inside.state.bells = state().bells.filter(({ id }) => id !== c.req.param('id'));
    inside.changed();
    return c.redirect('/desk', 303);
  });
  app.post('/desk/orders/:no', (c) => {
    const order = state().orders.find(({ no }) => no === c.req.param('no'));
    if (order) trade.refund(order);
    inside.changed();
    return c.redirect('/desk', 303);
  });
  return app;
}

const formOf = async (c: Context) => new URLSearchParams(await c.req.text());
const textIn = (sent: URLSearchParams, name: string) => (sent.get(name) ?? '').trim();

const buyerIn = (sent: URLSearchParams): Buyer => ({
  address: textIn(sent, 'address'),
  given: textIn(sent, 'given'),
  family: textIn(sent, 'family'),
  phone: textIn(sent, 'phone'),
});

const ticksIn = (sent: URLSearchParams): Channel[] =>
  sent.getAll('agree').filter((one): one is Channel => one === 'email' || one === 'sms');

const countsIn = (sent: URLSearchParams, { products }: ShopState): Record<string, number> =>
  Object.fromEntries(products.map(({ sku }) => [sku, Math.min(20, Math.max(0, Number(sent.get(sku)) || 0))]));
