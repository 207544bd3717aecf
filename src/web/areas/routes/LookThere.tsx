import { Eye } from 'lucide-react';
import type { LookView } from '../../../contract/rehearsal.ts';
import { useLook, type Rehearsed } from '../../data/routes.ts';
import { Address } from '../../parts/Address.tsx';
import { ActionError } from '../../parts/States.tsx';

/** Reads how the destination holds the person now, when asked, and shows what would change. */
export function LookThere({ routeId, targetId, sample }: { routeId: string; targetId: string; sample: Rehearsed }) {
  const look = useLook(routeId);
  return (
    <div className="mt-1">
      <button className="btn btn-xs" disabled={look.isPending} onClick={() => look.mutate({ ...sample, targetId })}>
        <Eye size={13} aria-hidden="true" /> {look.isPending ? 'Looking' : 'Look there now'}
      </button>
      <ActionError error={look.error} />
      {look.data && (
        <div aria-live="polite">
          <Seen seen={look.data} />
        </div>
      )}
    </div>
  );
}

function Seen({ seen: { problem, isThere, refusal, changes } }: { seen: LookView }) {
  if (problem !== null) return <p className="text-warning">{problem}</p>;
  const open = changes.filter(({ before, after }) => before !== after);
  return (
    <>
      <p className="text-muted">{isThere ? 'They are there already.' : 'They are not there yet.'}</p>
      {refusal && <p className="text-error font-semibold">Would be refused: {refusal}</p>}
      {open.length === 0 ? (
        <p>Already so: nothing would change there.</p>
      ) : (
        <ul>
          {open.map(({ what, before, after }) => (
            <li key={what}>
              <span className="text-muted">{what}</span> {before !== '' && <s className="text-muted">{before}</s>}{' '}
              <Address text={after || 'empty'} />
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
