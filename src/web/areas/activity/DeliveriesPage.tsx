import { Link, useSearchParams } from 'react-router';
import type { DeliveryView } from '../../../contract/deliveries.ts';
import { CAUSE_NAMES, DELIVERY_STATES, deliveryWord } from '../../../core/delivery/index.ts';
import { useRouteLines } from '../../data/routes.ts';
import { Filter } from '../../parts/Filter.tsx';
import { FilterSelect, inWords } from '../../parts/FilterSelect.tsx';
import { LongBody } from '../../parts/LongBody.tsx';
import { moveInList } from '../../parts/keys.ts';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Failed } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { ExactTime, Time } from '../../parts/Time.tsx';
import { useConnectionLines } from '../../data/connections.ts';
import { ActivityTabs } from './ActivityTabs.tsx';
import { Narrowed } from '../../parts/Narrowed.tsx';
import { HeldGroups } from './HeldGroups.tsx';
import { DeliveryActions } from './DeliveryActions.tsx';
import { useDeliveries, useHeldGroups } from '../../data/activity.ts';

export function DeliveriesPage() {
  const [params] = useSearchParams();
  const connections = useConnectionLines();
  const routes = useRouteLines();
  const deliveries = useDeliveries(Object.fromEntries(params));
  const groups = useHeldGroups();
  const rows = deliveries.data?.pages.flatMap((page) => page.rows) ?? [];
  const state = params.get('state') ?? '';
  const [cause, connectionId] = [params.get('cause'), params.get('connection')];
  // One group is open when both are chosen; the others stay at hand then.
  const isOpen = cause !== null && connectionId !== null;
  const shownGroups = (groups.data ?? []).filter(
    (group) =>
      isOpen || ((cause ?? group.cause) === group.cause && (connectionId ?? group.connectionId) === group.connectionId),
  );
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <div className="flex-1 flex flex-wrap justify-end gap-2">
          <Filter label="Address or name" />
          <FilterSelect name="connection" label="To" every="Every connection" options={connections.data} />
          <FilterSelect name="route" label="Route" every="Every route" options={routes.data} />
          <FilterSelect name="state" label="State" every="Every state" options={inWords(DELIVERY_STATES)} />
          <FilterSelect name="cause" label="Cause" every="Every cause" options={inWords(CAUSE_NAMES)} />
        </div>
      </div>
      <Since />
      <div className="flex-1 min-h-0 overflow-auto" tabIndex={0} role="region" aria-label="Deliveries">
        {state === 'held' && shownGroups.length > 0 && (
          <HeldGroups groups={shownGroups} cause={cause} connectionId={connectionId} />
        )}
        {deliveries.isError && !deliveries.data ? (
          <Failed error={deliveries.error} again={() => void deliveries.refetch()} />
        ) : null}
        {deliveries.data && rows.length === 0 && !deliveries.hasNextPage ? (
          <NoDeliveries state={state} isNarrowed={params.size > (state ? 1 : 0)} />
        ) : (
          <table className="rows w-full" aria-rowcount={rows.length + 1} onKeyDown={moveInList}>
            <thead>
              <tr>
                <th scope="col">Person</th>
                <th scope="col">To</th>
                <th scope="col">Route</th>
                <th scope="col">State</th>
                <th scope="col">When</th>
                <th scope="col">Why</th>
                <th scope="col">
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <LongBody rows={rows} keyOf={({ id }) => id} columns={7}>
              {(delivery) => (
                <>
                  <td className="min-w-44">
                    <Link data-row to={`/activity/${delivery.submissionId}`} className="plain-link wrap-anywhere">
                      {delivery.email}
                    </Link>
                  </td>
                  <td>{delivery.connectionName}</td>
                  <td>{delivery.routeName}</td>
                  <td>
                    <StateMark of="delivery" state={deliveryWord(delivery)} />
                  </td>
                  <td className="text-muted">
                    <When delivery={delivery} />
                  </td>
                  <td className="min-w-52">
                    {delivery.sentence} <span className="text-muted">{delivery.causeDetail}</span>
                  </td>
                  <td>
                    <DeliveryActions delivery={delivery} />
                  </td>
                </>
              )}
            </LongBody>
          </table>
        )}
        <MoreRows query={deliveries} />
      </div>
    </div>
  );
}

/** What stands in the place of the rows: nothing at all, nothing of a state, or nothing that fits all filters. */
function NoDeliveries({ state, isNarrowed }: { state: string; isNarrowed: boolean }) {
  const [to, label] =
    state === 'held' && isNarrowed
      ? ['/activity/deliveries?state=held', 'Show all that is held']
      : ['/activity/deliveries', 'Show all deliveries'];
  const action = (
    <Link to={to} className="btn btn-sm">
      {label}
    </Link>
  );
  if (isNarrowed)
    return (
      <Empty title={state === 'held' ? 'Nothing of this kind is held any more' : 'Nothing matches'} action={action}>
        {state === 'held' ? 'What was mended goes on by itself.' : 'No delivery is like that.'}
      </Empty>
    );
  return state === 'held' ? (
    <Empty title="Nothing is held" action={action}>
      Whatever cannot go on by itself stands here, with the cause and what to do.
    </Empty>
  ) : (
    <Empty title={state ? 'Nothing matches' : 'No deliveries yet'} {...(state ? { action } : {})}>
      A delivery is what one submission causes in one other system.
    </Empty>
  );
}

/** When it ended, or is tried again; else when it was planned. */
function When({ delivery: { plannedAt, dueAt, endedAt } }: { delivery: DeliveryView }) {
  if (endedAt || !dueAt) return <Time at={endedAt ?? plannedAt} />;
  return (
    <>
      again <Time at={dueAt} coming />
    </>
  );
}

/** From when on the shown ones ended, where the list is of a figure. */
function Since() {
  const [params] = useSearchParams();
  const since = Number(params.get('since'));
  if (!since) return null;
  return (
    <Narrowed by={['since']}>
      Those that ended since <ExactTime at={new Date(since).toISOString()} />
    </Narrowed>
  );
}
