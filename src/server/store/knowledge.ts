import { knowledgeFields } from '../../core/plan/index.ts';
import type { SourceField } from '../../core/values/index.ts';
import { listConnections } from './connections.ts';
import type { Db } from './database.ts';
import { listPurposes } from './purposes.ts';

/** What may be known of anybody beside what they send, as fields that conditions ask for. */
export async function readKnowledge(db: Db): Promise<SourceField[]> {
  return knowledgeFields(await listPurposes(db), await listConnections(db));
}
