import { Upload } from 'lucide-react';
import { useRef } from 'react';
import { saying } from '../data/api.ts';
import { useImport } from '../data/importing.ts';
import { Dialog } from './Dialog.tsx';

interface ImportButtonProps {
  what: 'source' | 'route';
  onImported: (id: string) => void;
}

/** Takes a file that was exported, here or elsewhere, as a new draft. */
export function ImportButton({ what, onImported }: ImportButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  const { mutate, error, reset } = useImport(what);
  const take = async (file: File | undefined) => {
    if (file) mutate(await file.text(), { onSuccess: ({ id }) => onImported(id) });
  };
  return (
    <>
      <button className="btn btn-sm btn-ghost" onClick={() => input.current?.click()}>
        <Upload size={15} aria-hidden="true" /> Import
      </button>
      <input
        ref={input}
        type="file"
        accept=".json,application/json"
        className="hidden"
        aria-label={`File of a ${what}`}
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
      <Dialog title={`The ${what} was not imported`} open={error !== null} onClose={reset}>
        <p>{saying(error)}</p>
        <button className="btn btn-sm mt-3" onClick={reset}>
          Close
        </button>
      </Dialog>
    </>
  );
}
