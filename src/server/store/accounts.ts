import { and, desc, eq, gt, lt, ne, sql } from 'drizzle-orm';
import { changedRows, type Db } from './database.ts';
import { accounts, facts, sessions, setupLinks } from './schema/index.ts';

export async function countAccounts(db: Db): Promise<number> {
  const [row] = await db.select({ count: sql<number>`COUNT(*)` }).from(accounts);
  return row?.count ?? 0;
}

export async function findAccount(db: Db, email: string) {
  const wanted = email.trim().toLowerCase();
  const rows = await db.select().from(accounts).where(eq(accounts.email, wanted));
  // The database takes letters with accents for those without.
  return rows.find((account) => account.email === wanted) ?? null;
}

export async function addAccount(db: Db, account: typeof accounts.$inferInsert): Promise<void> {
  await db.insert(accounts).values({ ...account, email: account.email.trim().toLowerCase() });
}

export async function addSession(db: Db, session: typeof sessions.$inferInsert): Promise<void> {
  await db.insert(sessions).values(session);
}

export async function findSession(db: Db, tokenHash: string, now: number) {
  const [row] = await db
    .select({ csrf: sessions.csrf, accountId: accounts.id, name: accounts.name, email: accounts.email })
    .from(sessions)
    .innerJoin(accounts, eq(accounts.id, sessions.accountId))
    .where(and(eq(sessions.tokenHash, tokenHash), gt(sessions.expiresAt, now)));
  return row ?? null;
}

export async function endSession(db: Db, tokenHash: string): Promise<void> {
  await db.delete(sessions).where(eq(sessions.tokenHash, tokenHash));
}

/** Where somebody is signed in, the newest first. */
export const listSessions = (db: Db, accountId: string, now: number) =>
  db
    .select({
      tokenHash: sessions.tokenHash,
      browser: sessions.browser,
      beganAt: sessions.beganAt,
      expiresAt: sessions.expiresAt,
    })
    .from(sessions)
    .where(and(eq(sessions.accountId, accountId), gt(sessions.expiresAt, now)))
    .orderBy(desc(sessions.beganAt));

/** @param here the token's hash of the one that goes on @returns how many ended */
export async function endOtherSessions(db: Db, accountId: string, here: string): Promise<number> {
  return changedRows(
    await db.delete(sessions).where(and(eq(sessions.accountId, accountId), ne(sessions.tokenHash, here))),
  );
}

export async function findAccountById(db: Db, id: string) {
  const [row] = await db.select().from(accounts).where(eq(accounts.id, id));
  return row ?? null;
}

/** @returns false where it is not the one that it is changed from any more */
export async function setPassword(db: Db, id: string, { from, to }: { from: string; to: string }): Promise<boolean> {
  return (
    changedRows(
      await db
        .update(accounts)
        .set({ passwordHash: to })
        .where(and(eq(accounts.id, id), eq(accounts.passwordHash, from))),
    ) === 1
  );
}

export async function dropExpiredSessions(db: Db, now: number): Promise<void> {
  await db.delete(sessions).where(lt(sessions.expiresAt, now));
}

/** Makes the one link with which the first account can be made; earlier ones stop working. */
export async function replaceSetupLink(db: Db, tokenHash: string, expiresAt: number): Promise<void> {
  await db.delete(setupLinks);
  await db.insert(setupLinks).values({ tokenHash, expiresAt });
}

/** Whether there is such a setup link, and it is not too old. */
export async function isSetupLink(db: Db, tokenHash: string, now: number): Promise<boolean> {
  const good = and(eq(setupLinks.tokenHash, tokenHash), gt(setupLinks.expiresAt, now));
  return (await db.$count(setupLinks, good)) > 0;
}

/** Uses up a setup link. @returns false when there is no such link or it is too old */
export async function useSetupLink(db: Db, tokenHash: string, now: number): Promise<boolean> {
  const [result] = await db
    .delete(setupLinks)
    .where(and(eq(setupLinks.tokenHash, tokenHash), gt(setupLinks.expiresAt, now)));
  return result.affectedRows === 1;
}

export async function readFact(db: Db, name: string): Promise<string | null> {
  const [row] = await db.select().from(facts).where(eq(facts.name, name));
  return row?.value ?? null;
}

export async function writeFact(db: Db, name: string, value: string): Promise<void> {
  await db.insert(facts).values({ name, value }).onDuplicateKeyUpdate({ set: { value } });
}
