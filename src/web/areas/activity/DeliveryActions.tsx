import { useState, type SubmitEvent } from 'react';
import type { DeliveryView } from '../../../contract/deliveries.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useAct } from '../../data/activity.ts';

/** What a person can do about a delivery that does not go on by itself. */
export function DeliveryActions({ delivery }: { delivery: DeliveryView }) {
  const act = useAct();
  const [dropping, setDropping] = useState(false);
  const [asked, setAsked] = useState(false);
  const stuck = delivery.state === 'held' || delivery.state === 'retrying';
  if (!stuck && delivery.state !== 'waiting') return null;
  const path = `/deliveries/${delivery.id}`;
  return (
    <div className="flex flex-wrap gap-1 items-center">
      {delivery.cause === 'left there before' && delivery.state === 'held' && (
        <button
          className="btn btn-xs btn-primary"
          disabled={act.isPending || asked}
          onClick={() => act.mutate({ path: `${path}/ask` }, { onSuccess: () => setAsked(true) })}
        >
          {asked ? 'Asked' : 'Ask to confirm'}
        </button>
      )}
      {delivery.cause === 'unclear' && delivery.state === 'held' && (
        <button
          className="btn btn-xs btn-primary"
          disabled={act.isPending}
          onClick={() => act.mutate({ path: `${path}/arrived` })}
        >
          It arrived
        </button>
      )}
      {stuck && (
        <button className="btn btn-xs" disabled={act.isPending} onClick={() => act.mutate({ path: `${path}/retry` })}>
          Retry
        </button>
      )}
      {delivery.state === 'held' && (
        <button
          className="btn btn-xs"
          disabled={act.isPending}
          onClick={() => act.mutate({ path: `${path}/replan` })}
          title="With what the route, as it is live now, makes of the submission"
        >
          Retry under the present route
        </button>
      )}
      <button className="btn btn-xs btn-ghost" onClick={() => setDropping(true)}>
        Drop
      </button>
      <ActionError error={act.error} />
      <Dialog title="Drop this delivery?" open={dropping} onClose={() => setDropping(false)}>
        <DropForm path={`${path}/drop`} onDone={() => setDropping(false)} />
      </Dialog>
    </div>
  );
}

function DropForm({ path, onDone }: { path: string; onDone: () => void }) {
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
