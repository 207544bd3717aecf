import { NO_EVIDENCE } from '../../contract/imports.ts';
import type { SourceDocument } from '../../core/intake/index.ts';
import type { Imported } from '../../core/plan/index.ts';
import type { Db } from '../store/database.ts';
import { findImports, type ImportRecord } from '../store/imports.ts';
import type { SubmissionRecord } from '../store/submissions.ts';

/** The imports that rows of files came by. */
export async function importsOf(
  db: Db,
  taken: { submission: SubmissionRecord; document: SourceDocument }[],
): Promise<(submission: SubmissionRecord, document: SourceDocument) => ImportRecord | null> {
  // Only what we read from a file says so: in what others send, a header may be called anything.
  const idOf = ({ raw }: SubmissionRecord, { kind }: SourceDocument) =>
    kind === 'file' || kind === 'shop' ? (raw.headers.import ?? '') : '';
  const ids = new Set(taken.map(({ submission, document }) => idOf(submission, document)).filter((id) => id !== ''));
  const found = new Map((await findImports(db, [...ids])).map((record) => [record.id, record]));
  return (submission, document) => found.get(idOf(submission, document)) ?? null;
}

/** What is said of somebody in a file; of rows whose import was deleted meanwhile, that they agreed to nothing. null where people sent it themselves. */
export const importedIn = ({ kind }: SourceDocument, from: ImportRecord | null): Imported | null =>
  kind === 'file' ? (from?.evidence ?? NO_EVIDENCE) : (from?.evidence ?? null);
