import { newWords, type NewWords } from '../../../core/plan/index.ts';
import type { Db } from '../../store/database.ts';
import { changePurpose, findPurpose, listPurposes } from '../../store/purposes.ts';
import { liveVersionsOf, readRouteVersion } from '../../store/routes.ts';
import type { SourceRecord } from '../../store/sources.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import type { Result } from '../../../core/result.ts';
import { refused, type Refusal } from '../command.ts';

/** What somebody says of words: that people agree to a purpose by them. */
export interface AgreedBy {
  purpose: string;
  wording: string;
}

/** The words of a source that live routes take as consent, and of which nobody has said yet what they are for. */
export async function newWordsOf(db: Db, id: string, document: MadeDocument): Promise<NewWords[]> {
  const versions = await liveVersionsOf(db, id);
  const routes = await Promise.all(
    versions.map(async ({ id: route, name, version }) => ({
      name,
      document: await readRouteVersion(db, route, version),
    })),
  );
  const live = routes.flatMap(({ name, document: route }) => (route ? [{ name, document: route }] : []));
  return newWords(document, live, await listPurposes(db));
}

/** Adds words to the purposes that somebody says they are for. */
export async function agreeBy(db: Db, agreed: AgreedBy[], now: number): Promise<void> {
  for (const { purpose: id, wording } of agreed) {
    const purpose = await findPurpose(db, id);
    if (purpose) await changePurpose(db, id, { wordings: [...new Set([...purpose.wordings, wording.trim()])] }, now);
  }
}

/** Keeps a source from going live whose words nobody has decided on; null where nothing does. */
export async function keptByWords(
  db: Db,
  { id, draft }: Pick<SourceRecord, 'id' | 'draft'>,
): Promise<Result<never, Refusal> | null> {
  const words = await newWordsOf(db, id, draft);
  if (words.length === 0) return null;
  return refused(
    'invalid',
    'words-not-decided',
    'It cannot go live yet.',
    words.map(({ name, wording }) => ({
      pointer: '/statement',
      detail: `Nobody has said that people agree to "${name}" by "${wording}". Say so when you publish, or under Consent.`,
    })),
  );
}
