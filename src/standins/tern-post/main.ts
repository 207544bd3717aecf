import { serveStandIn } from '../serve.ts';
import { ternPostApp } from './app.ts';
import { newState } from './state.ts';

const { TERN_POST_KEY = 'tern-key-for-trying-out' } = process.env;
await serveStandIn(() => newState(TERN_POST_KEY), ternPostApp);
