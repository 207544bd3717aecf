import { Hono } from 'hono';
import { Faults } from '../faults.ts';
import { listen } from '../listen.ts';
import { ready, StateFile } from '../process.ts';
import { evenings, home, skyLetter, thankYou } from './pages.ts';

// The observatory's web site. Its form is whatever HTML was last placed there: PUT /form.html, as a web developer would paste it.
const { PORT = '0', STATE_FILE } = process.env;
let form = '';
const file = new StateFile<{ form: string }>(STATE_FILE, () => ({ form }));
form = file.load()?.form ?? '';
const faults = new Faults();

const app = new Hono();
app.route('/', faults.routes());
app.get('/inside.json', (c) => c.json({ form }));
app.put('/form.html', async (c) => {
  form = await c.req.text();
  file.save();
  return c.body(null, 204);
});
app.use(faults.middleware());
app.get('/', (c) => c.html(home()));
app.get('/evenings', (c) => c.html(evenings()));
app.get('/sky-letter', (c) => c.html(skyLetter(form)));
app.get('/thank-you', (c) => c.html(thankYou()));

const server = await listen(app, Number(PORT));
ready({ port: server.port }, () => {
  server.close();
  file.save();
});
