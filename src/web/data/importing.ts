import { useMutation } from '@tanstack/react-query';
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

function parse(text: string, what: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Error(`This file is no ${what} that Iwashi exported: it is not JSON.`);
  }
}
