import { listen } from '../listen.ts';
import { ready, StateFile } from '../process.ts';
import { ternPostApp } from './app.ts';
import type { TernPostState } from './state.ts';

const { PORT = '0', STATE_FILE, TERN_POST_KEY = 'tern-key-for-trying-out' } = process.env;
const file: StateFile<TernPostState> = new StateFile(STATE_FILE, () => standIn.state());
const standIn = ternPostApp(TERN_POST_KEY, file.load(), () => file.changed());
const server = await listen(standIn.app, Number(PORT));
ready({ port: server.port }, () => {
  server.close();
  file.save();
});
