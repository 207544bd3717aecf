import { Check, X } from 'lucide-react';
import { Link } from 'react-router';
import { deliveryWord, howItIsKnown, sentInWords } from '../../../core/delivery/index.ts';
import type { DeliveryView } from '../../../contract/deliveries.ts';
import { Address } from '../../parts/Address.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';
import { Exchange } from '../../parts/Exchange.tsx';
import { DeliveryActions } from './DeliveryActions.tsx';

/** One delivery: where it stands, what the other system now holds beside what was meant, and every try. */
export function DeliveryCard({ delivery }: { delivery: DeliveryView }) {
  const {
    state,
    connectionName,
    routeName,
    routeVersion,
    sentence,
    causeDetail,
    nextStep,
    dueAt,
    deliveredAt,
    readBack,
    provedBy,
    attempts,
    leftOut,
    behind,
  } = delivery;
  const known = howItIsKnown(delivery);
  return (
    <div className="box">
      <div className="box-title flex flex-wrap justify-between gap-2">
        <span>
          To{' '}
          <Link to={`/connections/${delivery.connectionId}`} className="plain-link">
            {connectionName}
          </Link>{' '}
          <Link to={`/routes/${delivery.routeId}`} className="font-normal plain-link">
            {routeName}, version {routeVersion}
          </Link>
        </span>
        <StateMark of="delivery" state={deliveryWord(delivery)} />
      </div>
      <div className="p-3 flex flex-col gap-3">
        {sentence && state !== 'delivered' && (
          <div>
            <p className="font-semibold">{sentence}</p>
            {causeDetail && <p>{causeDetail}</p>}
            <p className="text-muted">{nextStep}</p>
          </div>
        )}
        {!sentence && causeDetail && <p>{causeDetail}</p>}
        {behind && (
          <p>
            Waits behind{' '}
            <Link to={`/activity/${behind}`} className="plain-link">
              an earlier delivery for the same person
            </Link>
            , so that nothing older overwrites it.
          </p>
        )}
        {dueAt && (
          <p>
            Next try <Time at={dueAt} coming />.
          </p>
        )}
        {leftOut.map((text) => (
          <p key={text} className="text-warning">
            Left out: {text}
          </p>
        ))}
        <DeliveryActions delivery={delivery} />
        {known && <p className="text-muted">{known}</p>}
        {readBack && readBack.length > 0 && (
          <table className="rows w-full">
            <caption className="text-left text-muted text-sm pb-1">
              {provedBy === 'answer' ? 'As its answer showed it' : 'Read back'}{' '}
              {provedBy === 'person' ? 'before somebody looked' : deliveredAt && <Time at={deliveredAt} />}
            </caption>
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">Meant</th>
                <th scope="col">{provedBy === 'answer' ? 'Answered' : 'Found there'}</th>
                <th scope="col">Same</th>
              </tr>
            </thead>
            <tbody>
              {readBack.map(({ what, meant, found, same }) => (
                <tr key={what + meant} className={same ? '' : 'bg-error/10'}>
                  <td className="text-muted">{what}</td>
                  <td className="break-words">
                    <Address text={meant} />
                  </td>
                  <td className="break-words">
                    <Address text={found} />
                  </td>
                  <td className={same ? 'text-success' : 'text-error'}>
                    <span className="inline-flex items-center gap-1">
                      {same ? <Check size={15} aria-hidden="true" /> : <X size={15} aria-hidden="true" />}{' '}
                      {same ? 'yes' : 'no'}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {attempts.map(({ number, startedAt, outcome, said, exchanges }) => (
          <details key={number} className="border border-base-300 rounded">
            <summary className="px-3 py-1.5 cursor-pointer">
              Try {number}: {outcome}{' '}
              <span className="text-muted">
                · <Time at={startedAt} />
                {said && ` · ${said}`}
              </span>
            </summary>
            <ol className="p-3 flex flex-col gap-4">
              {exchanges?.map((exchange, index) => (
                <li key={index}>
                  <Exchange exchange={exchange} />
                </li>
              ))}
              {sentInWords(exchanges) && <li className="text-muted">{sentInWords(exchanges)}</li>}
            </ol>
          </details>
        ))}
      </div>
    </div>
  );
}
