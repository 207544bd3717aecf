import { pino, type Logger } from 'pino';
import { V7Generator } from 'uuidv7';
import type { Config } from './config.ts';
import { createSend, type Send } from './connectors/http.ts';
import { loggedError } from './security/loggedErrors.ts';
import { createReaderApart } from './reading/apart.ts';
import type { ReadingPool } from './reading/pool.ts';
import { SecretBox } from './security/secrets.ts';
import { openStore, type Store } from './store/database.ts';

/** What every part of the server is handed: nothing reaches for a clock, an id or a secret by itself. */
export interface Context {
  config: Config;
  store: Store;
  secrets: SecretBox;
  send: Send;
  /** Reads what somebody else made, in a process apart. */
  reading: ReadingPool;
  now: () => number;
  newId: () => string;
  log: Logger;
  /** Parts of this installation on this machine that did not stay up and are not started again: their names, and why. */
  givenUp: Map<string, string>;
  close(): Promise<void>;
}

export function createContext(config: Config, now: () => number = Date.now): Context {
  const store = openStore(config.databaseUrl);
  const ids = new V7Generator();
  const send = createSend(config.allowPrivateAddresses, now);
  // No payloads, addresses or headers are ever logged; see http/app.ts for what a request leaves behind.
  const log = pino({ level: config.logLevel, base: null, serializers: { err: loggedError } }, pino.destination(2));
  const reading = createReaderApart(config.root, (why) =>
    log.error({ why }, 'the process that reads what others made ended; another one begins'),
  );
  return {
    config,
    store,
    send,
    reading,
    now,
    givenUp: new Map(),
    secrets: new SecretBox(config.secretKey),
    newId: () => ids.generateOrResetWithTs(now()).toString(),
    log,
    close: async () => {
      await send.close();
      await reading.close();
      await store.close();
    },
  };
}
