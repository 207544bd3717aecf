import { pino, type Logger } from 'pino';
import { V7Generator } from 'uuidv7';
import type { Config } from './config.ts';
import { createSend, type Send } from './connectors/http.ts';
import { loggedError } from './security/loggedErrors.ts';
import { SecretBox } from './security/secrets.ts';
import { openStore, type Store } from './store/database.ts';

/** What every part of the server is handed: nothing reaches for a clock, an id or a secret by itself. */
export interface Context {
  config: Config;
  store: Store;
  secrets: SecretBox;
  send: Send;
  now: () => number;
  newId: () => string;
  log: Logger;
  close(): Promise<void>;
}

export function createContext(config: Config, now: () => number = Date.now): Context {
  const store = openStore(config.databaseUrl);
  const ids = new V7Generator();
  const send = createSend(config.allowPrivateAddresses, now);
  return {
    config,
    store,
    send,
    now,
    secrets: new SecretBox(config.secretKey),
    newId: () => ids.generateOrResetWithTs(now()).toString(),
    // No payloads, addresses or headers are ever logged; see http/app.ts for what a request leaves behind.
    log: pino({ level: config.logLevel, base: null, serializers: { err: loggedError } }, pino.destination(2)),
    close: async () => {
      await send.close();
      await store.close();
    },
  };
}
