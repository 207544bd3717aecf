import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { listen } from '../listen.ts';
import { ready, StateFile } from '../process.ts';
import { tell, type Order, type Told } from './boxOffice.ts';
import { book, booked, evenings, home, loud, skyLetter, stories, story, strict, thankYou, visit } from './pages.ts';

// The observatory's web site. What a web developer would paste into it is put here: PUT /form.html for the place of the form,
// and PUT /head.html for the head of every page.
const { PORT = '0', STATE_FILE } = process.env;
let pasted = { form: '', head: '', told: { url: '', secret: '' }, orders: 2000 };
const file = new StateFile<typeof pasted>(STATE_FILE, () => pasted);
pasted = { ...pasted, ...file.load() };
const faults = new Faults();

const app = new Hono();
app.route('/', faults.routes());
app.get('/inside.json', (c) => c.json({ ...pasted, told: { ...pasted.told, secret: '' } }));
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
  pasted.told = await c.req.json<Told>();
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
