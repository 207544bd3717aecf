import { Redo2, Undo2 } from 'lucide-react';
import { useEffect } from 'react';
import type { Draft } from './useDraft.ts';

/** Undo, redo, and whether the draft is saved. Ctrl/⌘ Z works outside of inputs. */
export function DraftBar<Document>({ draft }: { draft: Draft<Document> }) {
  const { undo, redo, standing, trouble } = draft;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      if (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(event.target.tagName)) return;
      event.preventDefault();
      if (event.shiftKey) redo?.();
      else undo?.();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  });
  return (
    <div className="flex items-center gap-1">
      <span
        role="status"
        className={`text-sm mr-1 ${standing === 'not saved' ? 'text-error font-semibold' : 'text-muted'}`}
      >
        {standing === 'not saved'
          ? `Draft not saved: ${trouble}`
          : standing === 'saving'
            ? 'Saving draft'
            : 'Draft saved'}
      </span>
      <button className="btn btn-sm btn-ghost btn-square" onClick={() => undo?.()} disabled={!undo} aria-label="Undo">
        <Undo2 size={16} aria-hidden="true" />
      </button>
      <button className="btn btn-sm btn-ghost btn-square" onClick={() => redo?.()} disabled={!redo} aria-label="Redo">
        <Redo2 size={16} aria-hidden="true" />
      </button>
    </div>
  );
}
