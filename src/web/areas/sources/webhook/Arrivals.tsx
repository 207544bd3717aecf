import { useState } from 'react';
import { Link } from 'react-router';
import type { ArrivalRow } from '../../../../contract/webhook.ts';
import type { PostedDocument } from '../../../../core/intake/index.ts';
import { useArrival, useArrivals, useSendAgain } from '../../../data/webhooks.ts';
import { StateMark } from '../../../parts/StateMark.tsx';
import { ActionError, Loaded } from '../../../parts/States.tsx';
import { ExactTime, Time } from '../../../parts/Time.tsx';
import { PayloadTree } from './PayloadTree.tsx';
import { Reading } from './PastedExample.tsx';

interface ArrivalsProps {
  sourceId: string;
  document: PostedDocument;
}

/** So many stand there at first. */
const FIRST = 12;

/** The newest of what came to an address, whatever became of it; each can be looked at and sent again. */
export function Arrivals({ sourceId, document }: ArrivalsProps) {
  const arrivals = useArrivals(sourceId);
  const [open, setOpen] = useState('');
  const [all, setAll] = useState(false);
  return (
    <section aria-labelledby="arrivals">
      <h2 id="arrivals" className="font-semibold text-lg mb-1">
        What arrived
      </h2>
      <Loaded query={arrivals}>
        {(rows) =>
          rows.length === 0 ? (
            <p className="text-muted">
              Nothing yet. Copy the address into the other system, and have it send one test: it appears here within
              seconds.
            </p>
          ) : (
            <>
              <ul className="border-t border-base-300">
                {(all ? rows : rows.slice(0, FIRST)).map((row) => (
                  <li key={row.id} className="border-b border-base-300">
                    <button
                      type="button"
                      className="w-full text-left py-1.5 hover:bg-base-200"
                      aria-expanded={open === row.id}
                      onClick={() => setOpen(open === row.id ? '' : row.id)}
                    >
                      <span className="flex justify-between gap-2">
                        <StateMark of="arrival" state={row.outcome} />
                        <span className="text-muted text-sm">
                          <Time at={row.at} />
                        </span>
                      </span>
                      {(row.kinds.length > 0 || row.why !== '') && (
                        <span className="block text-muted text-sm break-words">
                          {[row.kinds.join(', '), row.why].filter(Boolean).join('. ')}
                        </span>
                      )}
                    </button>
                    {open === row.id && <Arrival sourceId={sourceId} document={document} row={row} />}
                  </li>
                ))}
              </ul>
              {!all && rows.length > FIRST && (
                <button type="button" className="btn btn-sm mt-2" onClick={() => setAll(true)}>
                  Show all {rows.length}
                </button>
              )}
              <p className="text-muted text-sm mt-2">
                The newest 200 can be looked at here. What was taken stays with its submissions.
              </p>
            </>
          )
        }
      </Loaded>
    </section>
  );
}

function Arrival({ sourceId, document, row }: ArrivalsProps & { row: ArrivalRow }) {
  const arrival = useArrival(sourceId, row.id);
  const again = useSendAgain(sourceId);
  return (
    <div className="pb-3 flex flex-col gap-2">
      <Loaded query={arrival}>
        {({ at, contentType, headers, read, body, submissions }) => (
          <>
            <p className="text-muted text-sm">
              <ExactTime at={at} />
              {contentType === '' ? ', without a media type' : `, as ${contentType}`}
            </p>
            {submissions.map((id) => (
              <Link key={id} className="plain-link" to={`/activity/submissions/${id}`}>
                What became of it
              </Link>
            ))}
            {read ? (
              <>
                <PayloadTree json={read.json} />
                <h3 className="font-semibold">Read by the fields as they are here</h3>
                <Reading document={document} json={read.json} />
              </>
            ) : (
              body !== null && (
                <pre
                  className="bg-base-200 p-2 text-xs whitespace-pre-wrap break-words rounded max-h-80 overflow-auto"
                  tabIndex={0}
                >
                  {body}
                </pre>
              )
            )}
            <details>
              <summary className="cursor-pointer">Headers</summary>
              <dl className="grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-3 text-sm">
                {Object.entries(headers).map(([name, value]) => (
                  <div key={name} className="contents">
                    <dt className="text-muted font-mono">{name}</dt>
                    <dd className="break-all">{value}</dd>
                  </div>
                ))}
              </dl>
            </details>
          </>
        )}
      </Loaded>
      {row.outcome !== 'not genuine' && (
        <div>
          <button type="button" className="btn btn-sm" disabled={again.isPending} onClick={() => again.mutate(row.id)}>
            {row.outcome === 'taken' || row.outcome === 'repeated' ? 'Send it again' : 'Have it taken'}
          </button>
        </div>
      )}
      {again.data && <p role="status">Taken: it is among the submissions now.</p>}
      <ActionError error={again.error} />
    </div>
  );
}
