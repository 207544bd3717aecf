import { useState, type SubmitEvent, type ReactNode } from 'react';
import { Field } from './Field.tsx';
import { ActionError } from './States.tsx';

interface NameFormProps {
  label: string;
  help: string;
  action: string;
  busy: boolean;
  error: unknown;
  onSubmit: (name: string) => void;
  /** What it is called unless somebody says otherwise. */
  suggested?: string;
  /** Another way to make it, which does something more. */
  also?: { action: string; onSubmit: (name: string) => void; beside?: ReactNode; disabled?: boolean };
  onCancel: () => void;
  children?: ReactNode;
}

/** Asks for the name of something new. */
export function NameForm({
  label,
  help,
  action,
  busy,
  error,
  onSubmit,
  suggested = '',
  also,
  onCancel,
  children,
}: NameFormProps) {
  const [typed, setName] = useState<string | null>(null);
  const name = typed ?? suggested;
  const [tried, setTried] = useState(false);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    setTried(true);
    if (name.trim() !== '') onSubmit(name.trim());
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
      <Field label={label} help={help} error={tried && name.trim() === '' ? 'Give it a name.' : undefined}>
        <input
          className="input w-full"
          value={name}
          onChange={(event) => setName(event.target.value)}
          autoComplete="off"
        />
      </Field>
      {children}
      <ActionError error={error} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={busy}>
          {action}
        </button>
        <button type="button" className="btn btn-sm" onClick={onCancel}>
          Cancel
        </button>
      </div>
      {also && (
        <div className="flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="btn btn-sm"
            disabled={busy || also.disabled === true}
            onClick={() => {
              setTried(true);
              if (name.trim() !== '') also.onSubmit(name.trim());
            }}
          >
            {also.action}
          </button>
          {also.beside}
        </div>
      )}
    </form>
  );
}
