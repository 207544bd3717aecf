import { Link, useSearchParams } from 'react-router';
import { DELIVERY_STATES } from '../../../core/delivery/index.ts';
import { moveInList } from '../../parts/keys.ts';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Failed } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';
import { ActivityTabs } from './ActivityTabs.tsx';
import { HeldGroups } from './HeldGroups.tsx';
import { DeliveryActions } from './DeliveryActions.tsx';
import { useDeliveries, useHeldGroups } from './useActivity.ts';

export function DeliveriesPage() {
  const [params, setParams] = useSearchParams();
  const deliveries = useDeliveries(Object.fromEntries(params));
  const groups = useHeldGroups();
  const rows = deliveries.data?.pages.flatMap((page) => page.rows) ?? [];
  const state = params.get('state') ?? '';
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <select
          className="select select-sm w-44 ml-auto"
          aria-label="State"
          value={state}
          onChange={(event) => setParams(event.target.value ? { state: event.target.value } : {})}
        >
          <option value="">Every state</option>
          {DELIVERY_STATES.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </div>
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label="Deliveries">
        {state === 'held' && groups.data && groups.data.length > 0 && (
          <HeldGroups groups={groups.data} cause={params.get('cause')} connectionId={params.get('connection')} />
        )}
        {deliveries.isError && !deliveries.data ? (
          <Failed error={deliveries.error} again={() => void deliveries.refetch()} />
        ) : null}
        {deliveries.data && rows.length === 0 ? (
          <Empty
            title={state === 'held' ? 'Nothing is held' : 'No deliveries here'}
            action={
              <Link to="/activity/deliveries" className="btn btn-sm">
                Show all deliveries
              </Link>
            }
          >
            {state === 'held'
              ? 'Whatever cannot go on by itself stands here, with the cause and what to do.'
              : 'A delivery is what one submission causes in one other system.'}
          </Empty>
        ) : (
          <table className="rows w-full" onKeyDown={moveInList}>
            <thead>
              <tr>
                <th scope="col">Person</th>
                <th scope="col">To</th>
                <th scope="col">Route</th>
                <th scope="col">State</th>
                <th scope="col">Why</th>
                <th scope="col">
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((delivery) => (
                <tr key={delivery.id} data-link>
                  <td>
                    <Link data-row to={`/activity/${delivery.submissionId}`} className="plain-link whitespace-nowrap">
                      {delivery.email}
                    </Link>
                  </td>
                  <td>{delivery.connectionName}</td>
                  <td>{delivery.routeName}</td>
                  <td>
                    <StateMark state={delivery.state} />
                    {delivery.deliveredAt && (
                      <div className="text-quiet text-sm">
                        <Time at={delivery.deliveredAt} />
                      </div>
                    )}
                  </td>
                  <td className="min-w-64">
                    {delivery.sentence} <span className="text-quiet">{delivery.causeDetail}</span>
                  </td>
                  <td>
                    <DeliveryActions delivery={delivery} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <MoreRows query={deliveries} />
      </div>
    </div>
  );
}
