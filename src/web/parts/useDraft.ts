import { useCallback, useEffect, useRef, useState } from 'react';
import type { PartIssue } from '../../contract/checks.ts';
import { ApiProblem, saying } from './api.ts';

const REST_MS = 500;
const HISTORY = 100;

export interface Draft<Document> {
  document: Document;
  change: (next: Document) => void;
  undo: (() => void) | null;
  redo: (() => void) | null;
  /** What the server would not take, by part; what was typed stays. */
  issues: PartIssue[];
  standing: 'saved' | 'saving' | 'not saved';
  trouble: string;
  /** Saves now, and waits for it. @returns whether the server took it */
  flush: () => Promise<boolean>;
}

/** A document that saves itself a moment after each change, and remembers its former states. */
export function useDraft<Document>(initial: Document, save: (document: Document) => Promise<unknown>): Draft<Document> {
  const [state, setState] = useState({ past: [] as Document[], document: initial, future: [] as Document[] });
  const [saved, setSaved] = useState(initial);
  /** The document that the server would not take, and why. */
  const [refused, setRefused] = useState<{ document: Document; error: unknown } | null>(null);
  const latest = useRef(initial);
  const stored = useRef(initial);
  const saving = useRef<Promise<boolean>>(Promise.resolve(true));
  const saveRef = useRef(save);
  useEffect(() => {
    saveRef.current = save;
  });

  const flush = useCallback(() => {
    saving.current = saving.current.then(async () => {
      const document = latest.current;
      if (document === stored.current) return true;
      try {
        await saveRef.current(document);
        stored.current = document;
        setSaved(document);
        setRefused(null);
        return true;
      } catch (error) {
        setRefused({ document, error });
        return false;
      }
    });
    return saving.current;
  }, []);

  useEffect(() => {
    latest.current = state.document;
    if (state.document === stored.current) return;
    const timer = setTimeout(() => void flush(), REST_MS);
    return () => clearTimeout(timer);
  }, [state.document, flush]);

  // Leaving the page with something unsaved saves it.
  useEffect(() => () => void flush(), [flush]);

  const change = useCallback((next: Document) => {
    latest.current = next;
    setState(({ past, document }) => ({ past: [...past.slice(-HISTORY), document], document: next, future: [] }));
  }, []);
  const undo = () =>
    setState(({ past, document, future }) => {
      const before = past.at(-1);
      return before === undefined
        ? { past, document, future }
        : { past: past.slice(0, -1), document: before, future: [document, ...future] };
    });
  const redo = () =>
    setState(({ past, document, future }) => {
      const [after, ...rest] = future;
      return after === undefined
        ? { past, document, future }
        : { past: [...past, document], document: after, future: rest };
    });
  const isRefused = refused?.document === state.document;
  return {
    document: state.document,
    change,
    undo: state.past.length > 0 ? undo : null,
    redo: state.future.length > 0 ? redo : null,
    issues: refused?.error instanceof ApiProblem ? refused.error.issues : [],
    standing: state.document === saved ? 'saved' : isRefused ? 'not saved' : 'saving',
    trouble: refused ? saying(refused.error) : '',
    flush,
  };
}
