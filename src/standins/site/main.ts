import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { listen } from '../listen.ts';
import { ready, StateFile } from '../process.ts';
import { tell, type Order, type WebhookAddress } from './boxOffice.ts';
import { LEVELS, Members, type Member } from './members.ts';
import {
  book,
  booked,
  evenings,
  home,
  join,
  membershipPage,
  loud,
  skyLetter,
  stories,
  story,
  strict,
  thankYou,
  visit,
} from './pages.ts';

// The observatory's web site. What a web developer would paste into it is put here: PUT /form.html for the place of the form,
// and PUT /head.html for the head of every page.
const { PORT = '0', STATE_FILE } = process.env;
let pasted = {
  form: '',
  head: '',
  told: { url: '', secret: '' },
  orders: 2000,
  membersTold: { url: '', secret: '' },
  members: [] as Member[],
};
const file = new StateFile<typeof pasted>(STATE_FILE, () => pasted);
pasted = { ...pasted, ...file.load() };
const faults = new Faults();

const app = new Hono();
app.route('/', faults.routes());
app.get('/inside.json', (c) =>
  c.json({ ...pasted, told: { ...pasted.told, secret: '' }, membersTold: { ...pasted.membersTold, secret: '' } }),
);
app.put('/form.html', async (c) => {
  pasted.form = await c.req.text();
  file.save();
  return c.body(null, 204);
});
app.put('/head.html', async (c) => {
  pasted.head = await c.req.text();
  file.save();
  return c.body(null, 204);
});
app.put('/told.json', async (c) => {
  pasted.told = await c.req.json<WebhookAddress>();
  file.save();
  return c.body(null, 204);
});
app.put('/members-told.json', async (c) => {
  pasted.membersTold = await c.req.json<WebhookAddress>();
  file.save();
  return c.body(null, 204);
});
/** How a test puts members there, and makes them end. */
app.put('/members.json', async (c) => {
  pasted.members = await c.req.json<Member[]>();
  file.save();
  return c.body(null, 204);
});
app.use(faults.middleware());
app.get('/', (c) => c.html(home(pasted.head)));
app.get('/evenings', (c) => c.html(evenings(pasted.head)));
app.get('/sky-letter', (c) => c.html(skyLetter(pasted.head, pasted.form)));
app.get('/stories', (c) => c.html(stories(pasted.head)));
app.get('/stories/:slug', (c) => {
  const page = story(pasted.head, c.req.param('slug'));
  return page === null ? c.notFound() : c.html(page);
});
app.get('/visit', (c) => c.html(visit(pasted.head)));
app.get('/book', (c) => {
  const [evening = '', name = '', email = ''] = ['evening', 'name', 'email'].map((part) => c.req.query(part));
  return c.html(book(pasted.head, { evening, name, email }));
});
app.post('/book', async (c) => {
  const sent = await c.req.parseBody();
  const text = (name: string) => (typeof sent[name] === 'string' ? sent[name].trim() : '');
  pasted.orders += 1;
  file.changed();
  const order: Order = {
    evening: text('evening'),
    name: text('name'),
    email: text('email'),
    phone: text('phone'),
    tickets: Math.min(40, Math.max(1, Number(text('tickets')) || 1)),
    chart: text('chart') === 'yes',
  };
  void tell(pasted.told, pasted.orders, order);
  return c.html(booked(pasted.head, pasted.orders, order));
});
const members = new Members(
  () => pasted.members,
  () => pasted.membersTold,
);
app.get('/join', (c) => c.html(join(pasted.head, '')));
app.post('/join', async (c) => {
  const sent = new URLSearchParams(await c.req.text());
  const text = (name: string) => (sent.get(name) ?? '').trim();
  const level = LEVELS.find((one) => one === text('level')) ?? '';
  members.register({ email: text('email'), given: text('given'), family: text('family') }, level, {
    ticked: text('agree') === 'yes',
    test: text('test') === 'yes',
  });
  file.changed();
  return c.html(join(pasted.head, level === '' ? 'You are registered.' : `Welcome, ${level}.`));
});
app.get('/membership', (c) => {
  const email = c.req.query('email') ?? '';
  return c.html(membershipPage(pasted.head, members.find(email), email));
});
app.post('/membership', async (c) => {
  const member = members.find(c.req.query('email') ?? '');
  if (!member) return c.notFound();
  const act = new URLSearchParams(await c.req.text()).get('act');
  const level = LEVELS.find((one) => one === act);
  if (act === 'renew') members.renew(member);
  else if (act === 'end') members.end(member);
  else if (level) members.change(member, level);
  else if (act === 'yes' || act === 'no') members.say(member, act);
  file.changed();
  return c.redirect(`/membership?email=${encodeURIComponent(member.email)}`, 303);
});
app.get('/thank-you', (c) => c.html(thankYou(pasted.head)));
/** A page that lets nothing in but what it names: the script's own address, and where it asks and sends. */
app.get('/strict', (c) => {
  const from = /src="(https?:\/\/[^/"]+)/.exec(pasted.head)?.[1] ?? '';
  c.header(
    'content-security-policy',
    `default-src 'none'; style-src 'self'; script-src ${from}; connect-src ${c.req.query('asking') === 'no' ? "'none'" : from}; form-action ${from}`,
  );
  return c.html(strict(pasted.head, pasted.form));
});
/** A page whose own style takes hold of everything. */
app.get('/loud', (c) => c.html(loud(pasted.head, pasted.form)));

const server = await listen(app, Number(PORT));
ready({ port: server.port }, () => {
  server.close();
  file.save();
});
