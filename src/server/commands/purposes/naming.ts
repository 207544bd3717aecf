import type { Result } from '../../../core/result.ts';
import type { Db } from '../../store/database.ts';
import { listPurposes } from '../../store/purposes.ts';
import { refused, type Refusal } from '../command.ts';

/** Two purposes of one name could not be told apart. @returns the refusal; null when the name is free */
export async function nameTaken(db: Db, name: string, own: string | null): Promise<Result<never, Refusal> | null> {
  const same = (await listPurposes(db)).find(
    (other) => other.id !== own && other.name.toLowerCase() === name.trim().toLowerCase(),
  );
  if (!same) return null;
  const detail = `There is a purpose "${same.name}" already${same.archived ? ', in the archive' : ''}.`;
  return refused('invalid', 'invalid', detail, [{ pointer: '/name', detail }]);
}
