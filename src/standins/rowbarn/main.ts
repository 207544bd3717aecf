import { serveStandIn } from '../serve.ts';
import { rowbarnApp } from './app.ts';
import { newState } from './state.ts';

const {
  ROWBARN_ID = 'app-for-trying-out',
  ROWBARN_SECRET = 'rowbarn-secret-for-trying-out',
  ROWBARN_RETURN = 'http://127.0.0.1:4680/api/connections/granted',
} = process.env;
await serveStandIn(() => newState(ROWBARN_ID, ROWBARN_SECRET, ROWBARN_RETURN), rowbarnApp);
