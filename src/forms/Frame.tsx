import type { ReactNode } from 'react';
import type { Presentation, Showing } from '../core/showing/index.ts';
import type { Say } from './words/index.ts';

interface FrameProps {
  id: string;
  presentation: Exclude<Presentation, 'inline'>;
  showing: Pick<Showing, 'position' | 'entrance'>;
  /** What it is called by those who do not see it. */
  name: string;
  say: Say;
  children: ReactNode;
}

/** What a form that shows itself comes in: over the page, along its edge or in its corner, always with a way to close it. */
export function Frame({ id, presentation, showing: { position, entrance }, name, say, children }: FrameProps) {
  const className = ['frame', presentation, position, entrance === 'none' ? '' : entrance].filter(Boolean).join(' ');
  const inside = (
    <>
      <button type="button" className="close" aria-label={say('close')}>
        <span aria-hidden="true">×</span>
      </button>
      {children}
    </>
  );
  return presentation === 'pop-up' || presentation === 'page' ? (
    <dialog id={id} className={className} aria-label={name}>
      {inside}
    </dialog>
  ) : (
    <aside id={id} className={className} aria-label={name}>
      {inside}
    </aside>
  );
}
