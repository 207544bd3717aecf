import type { ReactNode } from 'react';

interface FileButtonProps {
  icon: ReactNode;
  /** While the last one is on its way. */
  busy: boolean;
  /** Kinds of files, as browsers have them; absent for any. */
  accept?: string;
  onFile: (file: File) => void;
}

/** A button that asks for a file of this device. The same one can be chosen again. */
export function FileButton({ icon, busy, accept, onFile }: FileButtonProps) {
  return (
    // What is read aloud only stands where the button does: elsewhere it would make the page longer.
    <label className={`relative btn btn-sm self-start ${busy ? 'btn-disabled' : ''}`}>
      {icon} {busy ? 'Adding it' : 'Choose a file'}
      <input
        type="file"
        accept={accept}
        className="sr-only"
        disabled={busy}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          target.value = '';
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
