import { useState, type SubmitEvent } from 'react';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useAct } from '../../data/activity.ts';

/** Asks why something is given up: a delivery, or a mail. */
export function DropForm({ path, onDone }: { path: string; onDone: () => void }) {
  const act = useAct();
  const [reason, setReason] = useState('');
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    act.mutate({ path, body: { reason } }, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>It will not be sent, and cannot be taken up again. The submission and the person stay.</p>
      <Field label="Why" help="Stays in the trail.">
        <input className="input w-full" value={reason} onChange={(event) => setReason(event.target.value)} />
      </Field>
      <ActionError error={act.error} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-error" disabled={reason.trim().length < 3 || act.isPending}>
          Drop it
        </button>
        <button type="button" className="btn btn-sm" onClick={onDone}>
          Keep it
        </button>
      </div>
    </form>
  );
}
