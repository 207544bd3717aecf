import { useState } from 'react';
import { Dialog } from '../parts/Dialog.tsx';
import { useKeys } from '../parts/keys.ts';

const KEYS = [
  ['Ctrl or ⌘ and K', 'go anywhere by name'],
  ['/', 'filter the list'],
  ['↓ ↑', 'move in a list'],
  ['Enter', 'open'],
  ['Ctrl or ⌘ and Z', 'undo in a draft'],
  ['Esc', 'close'],
  ['?', 'this list'],
];

/** The keys that work, on "?". */
export function KeysDialog() {
  const [open, setOpen] = useState(false);
  useKeys({ '?': () => setOpen(true) });
  return (
    <Dialog title="Keys" open={open} onClose={() => setOpen(false)}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <kbd className="kbd kbd-sm">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <button className="btn btn-sm mt-4" onClick={() => setOpen(false)}>
        Close
      </button>
    </Dialog>
  );
}
