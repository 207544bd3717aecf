import { useMutation } from '@tanstack/react-query';
import type { FoundForm } from '../../core/formats/index.ts';
import type { FormDocument } from '../../core/intake/index.ts';
import { api } from './api.ts';
import { useRefresh } from './refresh.ts';

/** Takes the text of a file that was exported as a new draft. @param what is imported, as in "source" */
export function useImport(what: 'source' | 'route') {
  const refresh = useRefresh([`${what}s`]);
  return useMutation({
    mutationFn: (text: string) => api.post<{ id: string }>(`/${what}s/import`, parse(text, what)),
    onSuccess: refresh,
  });
}

/** The forms in HTML, or on a page of the web. */
export const useFoundForms = () =>
  useMutation({
    mutationFn: (input: { html: string; url: string }) => api.post<FoundForm[]>('/sources/forms-found', input),
  });

/** Makes a source of a document. */
export function useTakeOver() {
  const refresh = useRefresh(['sources']);
  return useMutation({
    mutationFn: (source: { name: string; document: FormDocument }) =>
      api.post<{ id: string }>('/sources/import', { what: 'iwashi source', ...source }),
    onSuccess: refresh,
  });
}

function parse(text: string, what: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Error(`This file is no ${what} that Iwashi exported: it is not JSON.`);
  }
}
