import type { Context } from './context.ts';
import { readFact, writeFact } from './store/accounts.ts';
import { listConnections } from './store/connections.ts';

const NAME = 'key check';
const TEXT = 'made with this key';

/**
 * Makes sure that the secret key is the one that this database was filled with: with another one, connections would look as if
 * every service refused them.
 * @throws when it is another one
 */
export async function checkKey({ store, secrets }: Pick<Context, 'store' | 'secrets'>): Promise<void> {
  const kept = await readFact(store.db, NAME);
  const [first] = kept === null ? await listConnections(store.db) : [];
  try {
    const sealed = kept ?? first?.secret;
    if (sealed !== undefined) secrets.open(sealed);
  } catch {
    throw new Error(
      'IWASHI_SECRET_KEY is not the key that this database was filled with: what it keeps encrypted cannot be read. Set the one from before.',
    );
  }
  if (kept === null) await writeFact(store.db, NAME, secrets.seal(TEXT));
}
