import { useState } from 'react';
import type { MailView } from '../../../contract/consent.ts';
import { useAct } from '../../data/activity.ts';
import { Address } from '../../parts/Address.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { ActionError } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { DropForm } from './DropForm.tsx';

const KINDS: Record<MailView['kind'], string> = {
  ask: 'Mail',
  answer: 'Answer',
  notify: 'Note to colleagues',
};

/** A mail of ours: to whom, in which words, whether it went out; and what can be done where it could not. */
export function MailCard({ mail: { id, kind, to, subject, text, state, at, error } }: { mail: MailView }) {
  return (
    <details className="border border-base-300 rounded">
      <summary className="px-3 py-1.5 cursor-pointer">
        {KINDS[kind]} to <Address text={to.join(', ')} />: <q>{subject}</q> <StateMark of="mail" state={state} /> ·{' '}
        <Time at={at} />
        {error && <span className="text-error"> · {error}</span>}
      </summary>
      <pre className="p-3 whitespace-pre-wrap font-sans">{text}</pre>
      {state === 'held' && kind !== 'ask' && <HeldMail id={id} />}
    </details>
  );
}

function HeldMail({ id }: { id: string }) {
  const act = useAct();
  const [dropping, setDropping] = useState(false);
  const path = `/mails/${id}`;
  return (
    <div className="p-3 pt-0 flex flex-wrap gap-1 items-center">
      <button className="btn btn-xs" disabled={act.isPending} onClick={() => act.mutate({ path: `${path}/retry` })}>
        Retry
      </button>
      <button className="btn btn-xs btn-ghost" onClick={() => setDropping(true)}>
        Drop
      </button>
      <ActionError error={act.error} />
      <Dialog title="Drop this mail?" open={dropping} onClose={() => setDropping(false)}>
        <DropForm path={`${path}/drop`} onDone={() => setDropping(false)} />
      </Dialog>
    </div>
  );
}
