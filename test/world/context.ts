import { randomBytes } from 'node:crypto';
import { readConfig } from '../../src/server/config.ts';
import { createContext, type Context } from '../../src/server/context.ts';
import { migrateStore } from '../../src/server/store/migrating.ts';
import { ROOT } from './processes.ts';
import { ownDatabase } from './world.ts';

/** What every part of the server is handed, on an empty database of its own; for tests of the store without processes. */
export async function ownContext(): Promise<Context> {
  const context = createContext(
    readConfig({
      DATABASE_URL: await ownDatabase(),
      IWASHI_SECRET_KEY: randomBytes(32).toString('base64'),
      IWASHI_ROOT: ROOT,
      IWASHI_LOG: 'silent',
      SMTP_URL: 'smtp://127.0.0.1:9',
      MAIL_FROM: 'letter@pellam-ridge.example',
    }),
  );
  await migrateStore(context.store, ROOT);
  return context;
}
