import { useCallback, useEffect, useRef, useState } from 'react';
import type { PartIssue } from '../../contract/checks.ts';
import { ApiProblem, saying } from '../data/api.ts';
import type { DraftStore, Revised } from '../data/draftStore.ts';
import { begun, changed, redone, undone } from './history.ts';

const REST_MS = 500;

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
  /** Somebody else changed it meanwhile; null when nobody did. */
  conflict: { theirs: Document; takeYours: () => void; takeTheirs: () => void } | null;
}

const CHANGED_MEANWHILE = 412;

/** A document that saves itself a moment after each change, and remembers its former states. */
export function useDraft<Document>(now: Revised<Document>, store: DraftStore<Document>): Draft<Document> {
  const [state, setState] = useState(() => begun(now.document));
  const [saved, setSaved] = useState(now.document);
  /** The document that the server would not take, and why. */
  const [refused, setRefused] = useState<{ document: Document; error: unknown } | null>(null);
  const [theirs, setTheirs] = useState<Revised<Document> | null>(null);
  const latest = useRef(now.document);
  const stored = useRef(now);
  const saving = useRef<Promise<boolean>>(Promise.resolve(true));
  const storeRef = useRef(store);
  useEffect(() => {
    storeRef.current = store;
  });

  const change = useCallback((next: Document) => {
    latest.current = next;
    const at = Date.now();
    setState((history) => changed(history, next, at));
  }, []);

  const flush = useCallback(() => {
    saving.current = saving.current.then(async () => {
      const document = latest.current;
      if (document === stored.current.document) return true;
      try {
        const { revision } = await storeRef.current.save(document, stored.current.revision);
        stored.current = { document, revision };
        setSaved(document);
        setRefused(null);
        return true;
      } catch (error) {
        setRefused({ document, error });
        if (error instanceof ApiProblem && error.status === CHANGED_MEANWHILE)
          setTheirs(await storeRef.current.load().catch(() => null));
        return false;
      }
    });
    return saving.current;
  }, []);

  useEffect(() => {
    latest.current = state.document;
    if (state.document === stored.current.document) return;
    const timer = setTimeout(() => void flush(), REST_MS);
    return () => clearTimeout(timer);
  }, [state.document, flush]);

  // Leaving or reloading the page with something unsaved saves it.
  useEffect(() => {
    const leave = () => void flush();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [flush]);

  // Somebody else saved it, and nothing of ours is under way: theirs is shown.
  useEffect(() => {
    const isNewer = now.revision > stored.current.revision;
    if (!isNewer || latest.current !== stored.current.document) return;
    if (JSON.stringify(now.document) === JSON.stringify(stored.current.document)) {
      stored.current = { ...stored.current, revision: now.revision };
      return;
    }
    stored.current = now;
    setSaved(now.document);
    change(now.document);
  }, [now, change]);

  const settle = ({ revision }: Revised<Document>, document: Document, theirDocument: Document) => {
    // From here on, ours stands upon theirs.
    stored.current = { document: theirDocument, revision };
    setSaved(theirDocument);
    setTheirs(null);
    setRefused(null);
    if (document === theirDocument) change(theirDocument);
    else void flush();
  };
  const isRefused = refused?.document === state.document;
  return {
    document: state.document,
    change,
    undo: state.past.length > 0 ? () => setState(undone) : null,
    redo: state.future.length > 0 ? () => setState(redone) : null,
    issues: refused?.error instanceof ApiProblem ? refused.error.issues : [],
    standing: state.document === saved ? 'saved' : isRefused ? 'not saved' : 'saving',
    trouble: refused ? saying(refused.error) : '',
    flush,
    conflict: theirs && {
      theirs: theirs.document,
      takeYours: () => settle(theirs, state.document, theirs.document),
      takeTheirs: () => settle(theirs, theirs.document, theirs.document),
    },
  };
}
