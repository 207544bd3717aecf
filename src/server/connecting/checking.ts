import type { VerifyResult } from '../../contract/connection.ts';
import { compareCatalogues, withFormerNames } from '../../core/plan/index.ts';
import { countsOf, verifyConnection, type Verified } from '../connectors/verifying/verify.ts';
import type { Context } from '../context.ts';
import { changeConnection, findConnection, moveConnection, type ConnectionRecord } from '../store/connections.ts';
import { inTransaction, nothingAlongside, type Alongside, type Db } from '../store/database.ts';
import { holdForCredentials, releaseRefused } from '../store/deliveries.ts';
import { resetHealth } from '../store/health.ts';
import { openAccess, partsFor } from './open.ts';
import { profileFor } from './profiles.ts';

/** How often a connection is verified without anybody asking: when all is well, and while it is not. */
const CHECK_EVERY_MS = { active: 15 * 60_000, refused: 60_000 };

/** However much is refused for it, what a service offers is not fetched more often than this. */
export const CATALOGUE_REST_MS = 60_000;

/** Verifies a saved connection, and stores what was found: what it offers, what changed there, whether work may go on. */
export async function checkConnection(
  context: Context,
  connection: ConnectionRecord,
  withCatalogue = true,
  alongside = nothingAlongside,
): Promise<VerifyResult> {
  const verified = await verifySaved(context, connection, withCatalogue);
  await storeVerified(context, connection, verified, alongside);
  return verified.result;
}

async function verifySaved(context: Context, connection: ConnectionRecord, withCatalogue: boolean): Promise<Verified> {
  let opened = await openAccess(context, connection);
  if (!opened.ok) return { result: notOpened(context, connection, opened.fault), catalogue: null };
  let verified = await verifyConnection(partsFor(context, opened.value), withCatalogue);
  const refusedToken = opened.value.token;
  if (!verified.result.ok && verified.result.refused && refusedToken !== undefined) {
    opened = await openAccess(context, connection, { refused: refusedToken });
    if (!opened.ok) return { result: notOpened(context, connection, opened.fault), catalogue: null };
    verified = await verifyConnection(partsFor(context, opened.value), withCatalogue);
  }
  return verified;
}

const notOpened = (
  { now }: Context,
  connection: ConnectionRecord,
  fault: { cause: string; said: string },
): VerifyResult => ({
  ok: false,
  about: 'service',
  refused: fault.cause === 'credentials refused',
  problem: fault.said,
  nextStep:
    fault.cause === 'credentials refused'
      ? `Grant access in ${profileFor(connection).name} again.`
      : 'Try again in a few minutes.',
  at: new Date(now()).toISOString(),
});

async function storeVerified(
  context: Context,
  connection: ConnectionRecord,
  { result, catalogue }: Verified,
  alongside: Alongside,
): Promise<void> {
  const now = context.now();
  await inTransaction(context.store, async (db) => {
    const changes = catalogue && connection.catalogue ? compareCatalogues(connection.catalogue, catalogue) : [];
    // A cheap check knows no counts: what was fetched last still stands.
    const shown = result.ok && !catalogue ? { ...result, ...countsOf(connection.catalogue) } : result;
    await changeConnection(db, connection.id, {
      verify: shown,
      ...(catalogue
        ? {
            catalogue: connection.catalogue ? withFormerNames(connection.catalogue, catalogue, now) : catalogue,
            catalogueAt: now,
          }
        : {}),
      ...(changes.length > 0 ? { changes, changesAt: now } : {}),
      ...(result.ok ? {} : { checkAt: now + CHECK_EVERY_MS.refused }),
    });
    if (result.ok) await letGoOn(context, db, connection.id);
    else if (result.refused) await refuse(context, db, connection.id, result);
    await alongside(db);
  });
}

/** Credentials are good: what was stopped for them goes on. */
async function letGoOn(context: Context, db: Db, id: string): Promise<void> {
  const now = context.now();
  await moveConnection(db, id, 'found good');
  await resetHealth(db, id);
  // The next check goes on with the rest.
  const isMore = await releaseRefused(db, id, now);
  await changeConnection(db, id, { checkAt: isMore ? now : now + CHECK_EVERY_MS.active });
}

/** Credentials are refused: everything for this connection is held at once, rather than each trying for itself. */
export async function refuse(context: Context, db: Db, id: string, verify: VerifyResult): Promise<void> {
  const now = context.now();
  const current = await findConnection(db, id);
  if (!current || current.state === 'ungranted') return;
  await moveConnection(db, id, 'found refused');
  const isMore = await holdForCredentials(db, id, now);
  await changeConnection(db, id, { verify, checkAt: isMore ? now : now + CHECK_EVERY_MS.refused });
}

/** When a connection is verified next by itself. */
export const nextCheckAt = (state: 'active' | 'refused', now: number): number => now + CHECK_EVERY_MS[state];
