import { useQueryClient } from '@tanstack/react-query';
import { api } from './api.ts';
import { keyOf } from './keys.ts';

/** A document as the server has it, and which revision that is. */
export interface Revised<Document> {
  document: Document;
  revision: string;
}

/** Where a document is kept that saves itself. */
export interface DraftStore<Document> {
  /** @throws ApiProblem with status 412 when the revision is not the newest */
  save: (document: Document, revision: string) => Promise<Revised<Document>>;
  load: () => Promise<Revised<Document>>;
}

/** The view of a source or a route, as far as its draft goes. */
interface Kept<Document> {
  id: string;
  draft: Document;
  draftAt: string;
}

/** Keeps the draft of a source or a route, and has every view of it show what was kept. */
export function useDraftStore<Document>(kind: 'sources' | 'routes', id: string): DraftStore<Document> {
  const queries = useQueryClient();
  const take = (view: Kept<Document>): Revised<Document> => {
    queries.setQueryData(keyOf(kind, 'one', id), view);
    return { document: view.draft, revision: view.draftAt };
  };
  return {
    save: async (document, revision) =>
      take(await api.putRevision<Kept<Document>>(`/${kind}/${id}/draft`, document, revision)),
    load: async () => take(await api.get<Kept<Document>>(`/${kind}/${id}`)),
  };
}
