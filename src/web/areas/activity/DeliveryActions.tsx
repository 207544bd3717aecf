import { useState } from 'react';
import type { DeliveryView } from '../../../contract/deliveries.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useAct } from '../../data/activity.ts';
import { DropForm } from './DropForm.tsx';

/** What a person can do about a delivery that does not go on by itself. */
export function DeliveryActions({ delivery }: { delivery: DeliveryView }) {
  const act = useAct();
  const [dropping, setDropping] = useState(false);
  const [asked, setAsked] = useState(false);
  const stuck = delivery.state === 'held' || delivery.state === 'retrying';
  if (!stuck && delivery.state !== 'waiting') return null;
  const path = `/deliveries/${delivery.id}`;
  const isByHand = delivery.cause === 'to be ended by hand';
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
      {(delivery.cause === 'unclear' || isByHand) && delivery.state === 'held' && (
        <button
          className="btn btn-xs btn-primary"
          disabled={act.isPending}
          onClick={() => act.mutate({ path: `${path}/arrived` })}
        >
          {isByHand ? 'Done there by hand' : 'It arrived'}
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
