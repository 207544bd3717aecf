import { FlaskConical } from 'lucide-react';
import { useState } from 'react';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { ProofView, TrialView } from '../../../contract/rehearsal.ts';
import type { RouteView } from '../../../contract/route.ts';
import { useLiveRehearsal, useTrial, type Rehearsed } from '../../data/routes.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { ActionError } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { TrialResult } from './TrialResult.tsx';

interface LiveRehearsalProps {
  route: RouteView;
  connections: ConnectionView[];
  sample: Rehearsed;
  /** Whether something is typed that is not saved yet. */
  isUnsaved: boolean;
}

/** Whether the route is proved, and what proves it: a test person, sent through the real destinations and read back. */
export function LiveRehearsal({ route, connections, sample, isUnsaved }: LiveRehearsalProps) {
  const [open, setOpen] = useState(false);
  const { proof } = route;
  return (
    <section>
      <h2 className="font-semibold text-lg">Live rehearsal</h2>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        {proof ? <ProofInWords proof={proof} /> : <span className="text-muted">Not tried for real yet.</span>}
        <button
          className="btn btn-xs"
          disabled={sample.values === null || route.draft.targets.length === 0 || isUnsaved}
          onClick={() => setOpen(true)}
        >
          <FlaskConical size={13} aria-hidden="true" /> Send a test person
        </button>
      </div>
      <Dialog title="Send a test person" open={open} onClose={() => setOpen(false)} wide>
        <Trying route={route} connections={connections} sample={sample} onClose={() => setOpen(false)} />
      </Dialog>
    </section>
  );
}

/** How far the newest live rehearsal can be relied on. */
function ProofInWords({ proof: { state, at, by, stale, version } }: { proof: ProofView }) {
  return (
    <span>
      <StateMark of="rehearsal" state={state === 'failed' ? 'failed' : stale ? 'stale' : 'proved'} />{' '}
      <span className="text-muted">
        {version === null ? 'the draft' : `version ${version}`}
        {state === 'failed' ? ', tried' : stale ? ', and it changed since:' : ','} <Time at={at} /> by {by}
      </span>
    </span>
  );
}

function Trying({
  route,
  connections,
  sample,
  onClose,
}: Omit<LiveRehearsalProps, 'isUnsaved'> & { onClose: () => void }) {
  const [address, setAddress] = useState('');
  const [trial, setTrial] = useState<TrialView | null>(null);
  const running = useLiveRehearsal(route.id, setTrial);
  const last = useTrial(route.id, trial ? null : (route.proof?.trialId ?? null));
  const shown = trial ?? last.data ?? null;
  const staying = route.draft.targets.flatMap(({ connectionId }) => {
    const connection = connections.find(({ id }) => id === connectionId);
    return connection?.catalogue?.can.removes === true ? [] : [connection?.name ?? 'a connection that is gone'];
  });
  return (
    <div className="flex flex-col gap-3">
      <p>
        A marked test person goes through the draft as it is saved, to the real destinations. What arrived is read back,
        and deleted again where that is possible. No mail goes out from here.
      </p>
      {staying.length > 0 && (
        <p>
          What stays there, since it cannot be deleted from here: <strong>{[...new Set(staying)].join(', ')}</strong>.
        </p>
      )}
      <Field
        label="Your address"
        help="Only if a destination refuses made-up ones: the test person gets it with a mark before the @."
      >
        <input
          className="input input-sm w-full"
          type="email"
          placeholder="a made-up one"
          value={address}
          onChange={(event) => setAddress(event.target.value)}
        />
      </Field>
      <ActionError error={running.error} />
      <div className="flex gap-2">
        <button
          className="btn btn-sm btn-primary"
          disabled={running.isPending}
          onClick={() => running.mutate({ ...sample, address })}
        >
          {running.isPending ? 'Trying' : trial ? 'Try again' : 'Send it'}
        </button>
        <button className="btn btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      {shown && (
        <div aria-live="polite">
          <TrialResult trial={shown} isLast={trial === null} />
        </div>
      )}
    </div>
  );
}
