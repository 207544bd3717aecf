import { serveStandIn } from '../serve.ts';
import { capstanApp } from './app.ts';
import { newState } from './state.ts';

const { CAPSTAN_KEY = 'cap-for-trying-out', CAPSTAN_SECRET = 'capstan-secret-for-trying-out' } = process.env;
await serveStandIn(() => newState(CAPSTAN_KEY, CAPSTAN_SECRET), capstanApp);
