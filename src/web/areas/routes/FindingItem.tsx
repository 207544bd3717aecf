import { useState } from 'react';
import { stepInWords } from '../../../core/mapping/index.ts';
import { Link } from 'react-router';
import type { Finding } from '../../../core/plan/index.ts';
import { StateMark } from '../../parts/StateMark.tsx';

interface FindingItemProps {
  finding: Finding;
  /** Which target it concerns, where there are several; '' otherwise. */
  targetName: string;
  /** Leads to where it is mended. */
  onGo: () => void;
  /** Puts the step that mends it at the end of its line. */
  onMend: () => void;
  /** Lets it stand, for a reason; null takes that back. */
  onAccept: (reason: string | null) => void;
}

/** One finding of the preflight: what is the matter, where it is mended, why it matters; or why somebody lets it stand. */
export function FindingItem({ finding, targetName, onGo, onMend, onAccept }: FindingItemProps) {
  const [isAccepting, setAccepting] = useState(false);
  const { level, message, fix, connectionId, mend, why, accepted } = finding;
  if (accepted !== undefined)
    return (
      <li className="text-muted">
        <StateMark of="finding" state="let stand" /> {targetName}
        {message} <q>{accepted}</q>{' '}
        <button className="plain-link" onClick={() => onAccept(null)}>
          Take back
        </button>
      </li>
    );
  return (
    <li>
      <StateMark of="finding" state={level} /> {targetName}
      {message}{' '}
      {connectionId === undefined ? (
        <button className="plain-link text-left" onClick={onGo}>
          {fix}
        </button>
      ) : (
        <Link className="plain-link" to={`/connections/${connectionId}`}>
          {fix}
        </Link>
      )}
      {mend && (
        <button className="btn btn-xs ml-1" onClick={onMend}>
          Add {stepInWords(mend)}
        </button>
      )}
      <details className="text-sm text-muted">
        <summary className="cursor-pointer py-1">Why this matters</summary>
        {why}
        {level !== 'blocker' && (
          <div className="mt-1">
            {isAccepting ? (
              <Reason onSay={onAccept} onCancel={() => setAccepting(false)} />
            ) : (
              <button className="btn btn-xs" onClick={() => setAccepting(true)}>
                Let it stand
              </button>
            )}
          </div>
        )}
      </details>
    </li>
  );
}

function Reason({ onSay, onCancel }: { onSay: (reason: string) => void; onCancel: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <form
      className="flex flex-wrap gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim() !== '') onSay(reason.trim());
      }}
    >
      <input
        className="input input-xs flex-1 min-w-32"
        aria-label="Why it is left as it is"
        placeholder="Why?"
        maxLength={500}
        autoFocus
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button className="btn btn-xs btn-primary" disabled={reason.trim() === ''}>
        Keep the reason
      </button>
      <button type="button" className="btn btn-xs" onClick={onCancel}>
        Cancel
      </button>
    </form>
  );
}
