import { Link } from 'react-router';
import { useStatus } from '../data/overview.ts';
import { Time } from '../parts/Time.tsx';
import { useOpenObject } from './openObject.ts';

/** A figure that leads to what it counts, where there is any. */
function Figure({ count, what, to }: { count: number; what: string; to: string }) {
  const text = `${count} ${what}`;
  return count === 0 ? (
    <span>{text}</span>
  ) : (
    <Link to={to} className="underline">
      {text}
    </Link>
  );
}

/** The bottom line, always there: how the installation is, and the standing of what is open. */
export function BottomLine() {
  const status = useStatus();
  const open = useOpenObject();
  const { data } = status;
  const down = status.isError || data?.database === 'down';
  return (
    <footer
      aria-label="State of the installation"
      className="flex items-center gap-5 h-8 px-4 text-sm border-t border-base-300 bg-base-200 text-muted shrink-0 overflow-x-auto whitespace-nowrap"
    >
      {down ? (
        <span className="text-error font-semibold">
          {status.isError ? 'Iwashi does not answer' : 'The database does not answer'}
        </span>
      ) : (
        <span>Database up</span>
      )}
      {data && (
        <>
          {data.givenUp !== '' && <span className="text-error font-semibold">Given up: {data.givenUp}</span>}
          <span className={data.workers === 0 ? 'text-error font-semibold' : ''}>
            {data.workers === 0
              ? 'No worker running: nothing is sent'
              : `${data.workers} ${data.workers === 1 ? 'worker' : 'workers'}`}
          </span>
          <Figure count={data.waiting} what="on the way" to="/activity?progress=on+its+way" />
          <Figure count={data.unconfirmed} what="to be confirmed" to="/activity/deliveries?state=waiting" />
          {data.held > 0 ? (
            <Link to="/activity/deliveries?state=held" className="text-error font-semibold underline">
              {data.held} held
            </Link>
          ) : (
            <span>0 held</span>
          )}
          <span>Last delivery {data.lastDeliveryAt ? <Time at={data.lastDeliveryAt} /> : 'never'}</span>
        </>
      )}
      {open && (
        <span className="ml-auto text-base-content">
          {open.name}: {open.standing}
          {open.at && (
            <>
              {' '}
              · {open.what} <Time at={open.at} />
            </>
          )}
        </span>
      )}
    </footer>
  );
}
