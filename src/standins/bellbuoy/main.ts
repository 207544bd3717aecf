import { serveStandIn } from '../serve.ts';
import { bellbuoyApp, newState } from './app.ts';

const { BELLBUOY_HOOK = 'hook-for-trying-out' } = process.env;
await serveStandIn(() => newState(BELLBUOY_HOOK), bellbuoyApp);
