import { groupBy } from '../../core/groupBy.ts';
import type { Context } from '../context.ts';
import type { ConnectionRecord } from '../store/connections.ts';
import { openAddress } from './addresses.ts';
import { openCredentials } from './open.ts';

/**
 * Finds the other connections to the account of one: of the same kind, at the same address, where the service calls the account the
 * same; or, where it calls it nothing, with the same credentials.
 */
export function othersOfAccount(
  context: Context,
  all: ConnectionRecord[],
): (record: ConnectionRecord) => ConnectionRecord[] {
  const accountOf = (record: ConnectionRecord): string => {
    const { profile, verify } = record;
    const said = verify?.ok && verify.untried === undefined ? verify.account : '';
    const known = said === '' ? { credentials: openCredentials(context, record) } : { account: said };
    return JSON.stringify({ profile, at: openAddress(context, record).replace(/\/+$/, ''), ...known });
  };
  const byAccount = groupBy(all, accountOf);
  return (record) => (byAccount.get(accountOf(record)) ?? []).filter(({ id }) => id !== record.id);
}
