import { useMemo } from 'react';
import { answeredFields } from '../../../../core/forms/index.ts';
import { knowledgeFields } from '../../../../core/plan/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { useConnections } from '../../../data/connections.ts';
import { usePurposes } from '../../../data/purposes.ts';
import { useSources } from '../../../data/sources.ts';

/** What may be known of a visitor, as fields that conditions ask about. */
export function useKnownFacts(): SourceField[] {
  const purposes = usePurposes();
  const connections = useConnections();
  const sources = useSources();
  return useMemo(
    () => [
      ...knowledgeFields(purposes.data ?? [], connections.data ?? []),
      ...answeredFields((sources.data ?? []).filter(({ draft }) => draft.kind === 'form')),
    ],
    [purposes.data, connections.data, sources.data],
  );
}
