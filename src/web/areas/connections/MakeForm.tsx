import { useState, type SubmitEvent } from 'react';
import type { ConnectionView, MakingInput } from '../../../contract/connection.ts';
import { ApiProblem } from '../../data/api.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useMake } from '../../data/connections.ts';

interface MakeButtonProps {
  connection: ConnectionView;
  what: MakingInput['what'];
  /** The list that a group is made in. */
  list?: string;
  /** The kind of record that a field is made for. */
  kind?: string;
  onMade?: (id: string) => void;
}

/** Makes a list, group, tag or field over there, without leaving the page on which it is missing. */
export function MakeButton({ connection, what, list = '', kind = '', onMade }: MakeButtonProps) {
  const [open, setOpen] = useState(false);
  const word = wordFor(connection, what);
  if (!connection.catalogue?.can.makes[what]) return null;
  return (
    <>
      <button type="button" className="btn btn-xs self-start" onClick={() => setOpen(true)}>
        New {word}
      </button>
      <Dialog title={`New ${word} in ${connection.name}`} open={open} onClose={() => setOpen(false)}>
        <MakeForm
          connection={connection}
          making={{ what, list, kind }}
          onDone={(id) => {
            setOpen(false);
            if (id !== null) onMade?.(id);
          }}
        />
      </Dialog>
    </>
  );
}

const wordFor = ({ catalogue }: ConnectionView, what: MakingInput['what']): string =>
  what === 'list' || what === 'group' ? (catalogue?.can.calls[what] ?? what) : what;

function MakeForm({
  connection,
  making,
  onDone,
}: {
  connection: ConnectionView;
  making: Pick<MakingInput, 'what' | 'list' | 'kind'>;
  onDone: (id: string | null) => void;
}) {
  const make = useMake(connection.id);
  const [name, setName] = useState('');
  const problem = make.error instanceof ApiProblem ? make.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    make.mutate({ ...making, name, type: 'text', choices: [] }, { onSuccess: ({ id }) => onDone(id) });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>It is made in {connection.serviceName} at once, and can be chosen here straight away.</p>
      <Field label="Name" error={problem?.about('/name')}>
        <input className="input w-full" value={name} onChange={(event) => setName(event.target.value)} autoFocus />
      </Field>
      <ActionError error={problem?.about('/name') ? null : make.error} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={make.isPending || name.trim() === ''}>
          {make.isPending ? 'Making it' : 'Make it'}
        </button>
        <button type="button" className="btn btn-sm" onClick={() => onDone(null)}>
          Cancel
        </button>
      </div>
    </form>
  );
}
