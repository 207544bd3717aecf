import { Upload } from 'lucide-react';
import { useRef, useState } from 'react';
import { api, saying } from './api.ts';
import { Dialog } from './Dialog.tsx';

interface ImportButtonProps {
  /** What is imported, as in "source". */
  what: string;
  path: string;
  onImported: (id: string) => void;
}

/** Takes a file that was exported, here or elsewhere, as a new draft. */
export function ImportButton({ what, path, onImported }: ImportButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState('');
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { id } = await api.post<{ id: string }>(path, parse(await file.text(), what));
      onImported(id);
    } catch (error) {
      setTrouble(saying(error));
    }
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
      <Dialog title={`The ${what} was not imported`} open={trouble !== ''} onClose={() => setTrouble('')}>
        <p>{trouble}</p>
        <button className="btn btn-sm mt-3" onClick={() => setTrouble('')}>
          Close
        </button>
      </Dialog>
    </>
  );
}

function parse(text: string, what: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    throw new Error(`This file is no ${what} that Iwashi exported: it is not JSON.`);
  }
}
