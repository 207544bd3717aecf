import { serveStandIn } from '../serve.ts';
import { tallyrowApp } from './app.ts';
import { newState } from './state.ts';

const {
  TALLYROW_ID = 'app-for-trying-out',
  TALLYROW_SECRET = 'tallyrow-secret-for-trying-out',
  TALLYROW_RETURN = 'http://127.0.0.1:4680/api/connections/granted',
} = process.env;
await serveStandIn(() => newState(TALLYROW_ID, TALLYROW_SECRET, TALLYROW_RETURN), tallyrowApp);
