import type { Profile } from '../../contract/profile/index.ts';
import type { Context } from '../context.ts';
import { changeConnection, listConnections, type ConnectionRecord } from '../store/connections.ts';
import { profileFor } from './profiles.ts';

/** Stands before an address that is kept encrypted. */
const SEALED = 'sealed ';

/** An address as it is kept: encrypted where whoever knows it can send there. */
export const sealAddress = (
  { secrets }: Pick<Context, 'secrets'>,
  { authentication }: Pick<Profile, 'authentication'>,
  address: string,
): string => (authentication.kind === 'secret address' ? `${SEALED}${secrets.seal(address)}` : address);

/** The address of a connection in clear. */
export const openAddress = (
  { secrets }: Pick<Context, 'secrets'>,
  { baseUrl }: Pick<ConnectionRecord, 'baseUrl'>,
): string => (baseUrl.startsWith(SEALED) ? secrets.open(baseUrl.slice(SEALED.length)) : baseUrl);

/** Encrypts the secret addresses that were kept in clear before. */
export async function sealAddresses(context: Context): Promise<void> {
  const { db } = context.store;
  for (const record of await listConnections(db)) {
    const sealed = record.baseUrl.startsWith(SEALED)
      ? record.baseUrl
      : sealAddress(context, profileFor(record), record.baseUrl);
    if (sealed !== record.baseUrl) await changeConnection(db, record.id, { baseUrl: sealed });
  }
}
