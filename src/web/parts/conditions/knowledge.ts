import { createContext, useContext } from 'react';
import { factFields, VISIT_FIELDS } from '../../../core/intake/index.ts';
import type { SourceField } from '../../../core/values/index.ts';

/** What may be known of people beside what they send, as fields: consent, lists and tags. Given by the bench. */
export const KnowledgeContext = createContext<SourceField[]>([]);

/** Everything that a condition can ask about: of the source, of how it came, and of what is known. */
export interface Askable {
  all: SourceField[];
  visit: SourceField[];
  known: SourceField[];
}

export function useAskable(fields: SourceField[]): Askable {
  const known = useContext(KnowledgeContext);
  return { all: [...factFields(fields), ...known], visit: VISIT_FIELDS, known };
}
