import { Link } from 'react-router';
import type { ConsentEventView } from '../../../contract/consent.ts';
import { CHANNEL_WORDS } from '../../../core/consent/index.ts';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';

/** The ledger of consent: what happened, in which words, with what evidence. */
export function ConsentEvents({ events, linked = false }: { events: ConsentEventView[]; linked?: boolean }) {
  if (events.length === 0) return <p className="text-muted">No consent was given or asked for.</p>;
  return (
    <ul className="flex flex-col gap-2">
      {events.map(({ kind, purpose, channel, wording, at, evidence, submissionId }) => (
        <li key={kind + purpose + channel + at}>
          <p>
            <StateMark of="consent" state={kind} /> for <strong>{purpose}</strong>, by {CHANNEL_WORDS[channel]} ·{' '}
            <Time at={at} />
            {linked && submissionId && (
              <>
                {' · '}
                <Link to={`/activity/${submissionId}`} className="plain-link">
                  submission
                </Link>
              </>
            )}
          </p>
          <p>
            <q>{wording}</q>
          </p>
          <p className="text-muted text-sm break-words">
            {Object.entries(evidence)
              .filter(([, value]) => value !== '')
              .map(([name, value]) => `${name} ${value}`)
              .join(' · ')}
          </p>
        </li>
      ))}
    </ul>
  );
}
