import { once } from 'node:events';
import { listen } from '../listen.ts';
import { ready, StateFile } from '../process.ts';
import { letterloftApp, type Letter } from './app.ts';

const { PORT = '0', SMTP_PORT = '0', STATE_FILE } = process.env;
const letters: Letter[] = [];
const file = new StateFile<Letter[]>(STATE_FILE, () => letters);
letters.push(...(file.load() ?? []));
const { app, smtp } = letterloftApp(letters, () => file.changed());
const server = await listen(app, Number(PORT));
smtp.listen(Number(SMTP_PORT), '127.0.0.1');
await once(smtp.server, 'listening');
const address = smtp.server.address();
ready({ port: server.port, smtpPort: typeof address === 'object' && address ? address.port : 0 }, () => {
  server.close();
  smtp.close(() => {});
  file.save();
});
