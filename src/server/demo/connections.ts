import { verifyEntered, saveConnection, type Entered } from '../connecting/adding.ts';
import { beginGrant, endGrant } from '../connecting/granting.ts';
import { profileOf } from '../connectors/registry.ts';
import type { Context } from '../context.ts';
import { findAccount } from '../store/accounts.ts';
import { findConnection } from '../store/connections.ts';

/** Where the stand-ins are, and what lets us in. */
export interface StandIns {
  'tern-post': { url: string; apiKey: string };
  capstan: { url: string; key: string; secret: string };
  rowbarn: { url: string; clientId: string; clientSecret: string };
  /** The whole address, which is the secret. */
  bellbuoy: { url: string };
  /** The mail server, for notices to colleagues. */
  mail: { url: string };
}

/** Connects the observatory's services, as an operator would. @returns the ids of the connections */
export async function connectAll(context: Context, standins: StandIns) {
  const { 'tern-post': ternPost, capstan, rowbarn, bellbuoy, mail } = standins;
  return {
    ternPost: await connect(context, 'tern-post', 'Tern Post, observatory', ternPost.url, { key: ternPost.apiKey }),
    capstan: await connect(context, 'capstan', 'Capstan, front office', capstan.url, {
      key: capstan.key,
      secret: capstan.secret,
    }),
    bellbuoy: await connect(context, 'bellbuoy', 'Bellbuoy, front desk', bellbuoy.url, {}),
    mail: await connect(context, 'mail', 'Mail to the front desk', mail.url, {}),
    rowbarn: await grant(context, 'Rowbarn, shared sheets', rowbarn),
  };
}

async function connect(
  context: Context,
  profile: string,
  name: string,
  baseUrl: string,
  credentials: Entered['credentials'],
): Promise<string> {
  const entered: Entered = { profile: profileOf(profile), name, baseUrl, credentials };
  const verified = await verifyEntered(context, entered);
  if (!verified.result.ok) throw new Error(`${name}: ${verified.result.problem}`);
  return saveConnection(context, entered, verified);
}

/** Grants access in Rowbarn's own window, by pressing its button. */
async function grant(
  context: Context,
  name: string,
  { url, clientId, clientSecret }: StandIns['rowbarn'],
): Promise<string> {
  const credentials = { clientId, clientSecret };
  const id = await saveConnection(context, { profile: profileOf('rowbarn'), name, baseUrl: url, credentials }, null);
  const connection = await findConnection(context.store.db, id);
  const account = await findAccount(context.store.db, context.config.demoSignIn?.email ?? '');
  if (!connection || !account) throw new Error(`${name}: nobody is there to grant access`);
  const window = new URL(await beginGrant(context, connection, account.id));
  const pressed = await fetch(`${window.origin}${window.pathname}`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams([...window.searchParams, ['answer', 'yes']]),
  });
  const granted = await endGrant(context, new URL(pressed.headers.get('location') ?? ''), account.id);
  if (!granted.ok) throw new Error(`${name}: ${granted.issue.message}`);
  return id;
}
