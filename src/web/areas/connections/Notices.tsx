import { Ear, EarOff } from 'lucide-react';
import { Link } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import { NoticeLine } from '../../parts/NoticeLine.tsx';
import { ActionError } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { useNotices, useTelling } from '../../data/connections.ts';

/** Whether the service tells us what happens there, and what it told last. */
export function Notices({ connection }: { connection: ConnectionView }) {
  const { id, serviceName, notices: telling } = connection;
  const notices = useNotices(id);
  const change = useTelling(id);
  if (!telling) return null;
  const { on, since, provenAt, reachedAt } = telling;
  return (
    <section>
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3 className="font-semibold">What {serviceName} tells us</h3>
        <button className="btn btn-sm" onClick={() => change.mutate(!on)} disabled={change.isPending}>
          {on ? <EarOff size={15} aria-hidden="true" /> : <Ear size={15} aria-hidden="true" />}
          {on ? 'Stop listening' : 'Listen'}
        </button>
      </div>
      <p className="text-muted">
        {on ? (
          <>
            Switched on {since && <Time at={since} />}
            {provenAt
              ? '; its signature was proven.'
              : `. Its first signed message has not come yet: ${reachedAt} has to be reachable from there.`}
          </>
        ) : (
          `Nothing yet. When you listen, ${serviceName} tells at once who unsubscribed or was blocked there, and it is written down as consent withdrawn.`
        )}
      </p>
      <ActionError error={change.error} />
      <ul className="mt-2 flex flex-col gap-1">
        {(notices.data ?? []).map((notice) => (
          <li key={notice.at + notice.kind + (notice.contactId ?? '')}>
            <NoticeLine notice={notice} />{' '}
            {notice.contactId ? (
              <Link className="plain-link" to={`/people/${notice.contactId}`}>
                the person
              </Link>
            ) : (
              <span className="text-muted">nobody we know</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
