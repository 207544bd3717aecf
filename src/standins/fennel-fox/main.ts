import { serveStandIn } from '../serve.ts';
import { fennelFoxApp } from './app.ts';
import { newState } from './state.ts';

const { FENNEL_FOX_TOKEN = 'fox-token-for-trying-out' } = process.env;
await serveStandIn(() => newState(FENNEL_FOX_TOKEN), fennelFoxApp);
