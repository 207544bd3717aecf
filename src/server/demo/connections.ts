import type { Result } from '../../core/result.ts';
import type { Actor, Refusal } from '../commands/command.ts';
import { connect as connectNow } from '../commands/connections/connect.ts';
import { askForAccess, takeAccess } from '../commands/connections/grantAccess.ts';
import type { Entered } from '../connecting/adding.ts';
import { profileOf } from '../connectors/registry.ts';
import type { Context } from '../context.ts';
import { findAccount } from '../store/accounts.ts';

/** Where the stand-ins are, and what lets us in. */
export interface StandIns {
  'tern-post': { url: string; apiKey: string };
  'fennel-fox': { url: string; token: string };
  capstan: { url: string; key: string; secret: string };
  rowbarn: { url: string; clientId: string; clientSecret: string };
  /** The whole address, which is the secret. */
  bellbuoy: { url: string };
}

/** Connects the observatory's services, as an operator would. @returns the ids of the connections */
export async function connectAll(context: Context, standins: StandIns) {
  const { 'tern-post': ternPost, 'fennel-fox': fox, capstan, rowbarn, bellbuoy } = standins;
  return {
    ternPost: await connect(context, 'tern-post', 'Tern Post, observatory', ternPost.url, { key: ternPost.apiKey }),
    capstan: await connect(context, 'capstan', 'Capstan, front office', capstan.url, {
      key: capstan.key,
      secret: capstan.secret,
    }),
    shop: await connect(context, 'fennel-fox', 'Fennel & Fox, shop', fox.url, { key: fox.token }),
    bellbuoy: await connect(context, 'bellbuoy', 'Bellbuoy, front desk', bellbuoy.url, {}),
    rowbarn: await grant(context, 'Rowbarn, shared sheets', rowbarn),
  };
}

/** Who made the demo: the person whose sign-in it offers. */
export async function demoOperator({ store, config }: Context): Promise<Actor> {
  const account = await findAccount(store.db, config.demoSignIn?.email ?? '');
  if (!account) throw new Error('nobody is there to make the demo');
  return { kind: 'person', id: account.id, name: account.name };
}

/** What a use case ended with. @throws when it was refused: the demo is to be right */
export function mustDo<Value>(outcome: Result<Value, Refusal>): Value {
  if (outcome.ok) return outcome.value;
  throw new Error([outcome.issue.text, ...outcome.issue.issues.map(({ detail }) => detail)].join(' '));
}

async function connect(
  context: Context,
  profile: string,
  name: string,
  baseUrl: string,
  credentials: Entered['credentials'],
): Promise<string> {
  const entered: Entered = { profile: profileOf(profile), name, baseUrl, credentials };
  return mustDo(await connectNow(await demoOperator(context), context, entered));
}

/** Grants access in Rowbarn's own window, by pressing its button. */
async function grant(
  context: Context,
  name: string,
  { url, clientId, clientSecret }: StandIns['rowbarn'],
): Promise<string> {
  const credentials = { clientId, clientSecret };
  const actor = await demoOperator(context);
  const entered = { profile: profileOf('rowbarn'), name, baseUrl: url, credentials };
  const id = mustDo(await connectNow(actor, context, entered));
  const window = new URL(mustDo(await askForAccess(actor, context, id)));
  const pressed = await fetch(`${window.origin}${window.pathname}`, {
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams([...window.searchParams, ['answer', 'yes']]),
  });
  const granted = await takeAccess(actor, context, new URL(pressed.headers.get('location') ?? ''));
  if (!granted.ok) throw new Error(`${name}: ${granted.issue.notice}`);
  return id;
}
