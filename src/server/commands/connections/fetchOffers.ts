import { good, type Result } from '../../../core/result.ts';
import { CATALOGUE_REST_MS, checkConnection } from '../../connecting/checking.ts';
import type { Context } from '../../context.ts';
import { findConnection } from '../../store/connections.ts';
import { unknown, type Refusal } from '../command.ts';

/**
 * Fetches anew what a service offers, for somebody who is mapping to it: what became required there, or is not any
 * more, is seen then and not a quarter of an hour later. It is nobody's act, so nothing is noted.
 * @returns whether it was fetched: not from a connection that is paused or refused, nor where it was just fetched
 */
export async function fetchOffers(context: Context, id: string): Promise<Result<{ fetched: boolean }, Refusal>> {
  const connection = await findConnection(context.store.db, id);
  if (!connection) return unknown('connection');
  const { state, catalogueAt } = connection;
  if (state !== 'active' || context.now() - (catalogueAt ?? 0) < CATALOGUE_REST_MS) return good({ fetched: false });
  const { ok } = await checkConnection(context, connection);
  return good({ fetched: ok });
}
