import { eq, inArray, sql } from 'drizzle-orm';
import { oneOf, rowsOf, type Db } from './database.ts';
import { uploads } from './schema/index.ts';

export type UploadRecord = typeof uploads.$inferSelect;

export async function addUpload(db: Db, upload: Omit<UploadRecord, 'submissionId'>): Promise<void> {
  await db.insert(uploads).values(upload);
}

export async function findUpload(db: Db, id: string): Promise<UploadRecord | null> {
  const [row] = await db.select().from(uploads).where(eq(uploads.id, id));
  return row ?? null;
}

/** Notes what a file turned out to be that came in pieces. */
export async function endUpload(db: Db, id: string, file: Pick<UploadRecord, 'mediaType' | 'sha256'>): Promise<void> {
  await db.update(uploads).set(file).where(eq(uploads.id, id));
}

/** Says which submission, or conversation, files belong to; they are kept for as long as it is. */
export async function assignUploads(db: Db, ids: string[], submissionId: string): Promise<void> {
  await db.update(uploads).set({ submissionId }).where(inArray(uploads.id, ids));
}

/** Files that came before a time and belong to no submission and no conversation: it was not sent in the end, or is gone. */
export async function looseUploads(db: Db, before: number, limit: number): Promise<string[]> {
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT u.id FROM uploads u LEFT JOIN submissions s ON s.id = u.submission_id
      LEFT JOIN conversations c ON c.id = u.submission_id
      WHERE u.created_at < ${before} AND s.id IS NULL AND c.id IS NULL LIMIT ${limit}`,
  );
  return rows.map(({ id }) => id);
}

export async function dropUploads(db: Db, ids: string[]): Promise<void> {
  if (ids.length > 0) await db.execute(sql`DELETE FROM uploads WHERE id IN ${oneOf(ids)}`);
}

/** Which of these files belong to anything: to a form, to what we show or hand out ourselves, to an import. */
export async function knownFiles(db: Db, ids: string[]): Promise<string[]> {
  if (ids.length === 0) return [];
  const rows = await rowsOf<{ id: string }>(
    db,
    sql`SELECT id FROM uploads WHERE id IN ${oneOf(ids)} UNION SELECT id FROM own_files WHERE id IN ${oneOf(ids)}
      UNION SELECT file_id AS id FROM imports WHERE file_id IN ${oneOf(ids)}`,
  );
  return rows.map(({ id }) => id);
}
