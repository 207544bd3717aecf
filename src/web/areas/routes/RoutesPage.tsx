import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useParams, useSearchParams } from 'react-router';
import type { RouteView } from '../../../contract/route.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { Field } from '../../parts/Field.tsx';
import { moveInList } from '../../parts/keys.ts';
import { ImportButton } from '../../parts/ImportButton.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { useConnections } from '../../data/connections.ts';
import { useSources } from '../../data/sources.ts';
import { RouteBench } from './RouteBench.tsx';
import { useAddRoute, useRoutes } from '../../data/routes.ts';

export function RoutesPage() {
  const routes = useRoutes();
  const sources = useSources();
  const connections = useConnections();
  const { id } = useParams();
  const navigate = useNavigate();
  // In the URL: a source's page leads here with itself as what the new route is from.
  const [params, setParams] = useSearchParams();
  const from = params.get('new');
  const setAdding = (is: boolean) => setParams(is ? { new: '' } : {}, { replace: !is });
  return (
    <>
      <Loaded query={routes}>
        {(list) => {
          if (!id)
            return <RouteList list={list} onAdd={() => setAdding(true)} canAdd={(sources.data?.length ?? 0) > 0} />;
          const open = list.find((route) => route.id === id);
          if (!open) return <Navigate to="/routes" replace />;
          const isThere = sources.data?.some((one) => open.draft.sourceIds.includes(one.id));
          return (
            <Loaded query={connections}>
              {(known) =>
                isThere ? (
                  <RouteBench
                    key={open.id}
                    route={open}
                    routes={list}
                    sources={sources.data ?? []}
                    connections={known}
                  />
                ) : (
                  <p className="p-6 text-quiet">Loading</p>
                )
              }
            </Loaded>
          );
        }}
      </Loaded>
      <Dialog title="A new route" open={from !== null} onClose={() => setAdding(false)}>
        <NewRoute
          key={from}
          from={from ?? ''}
          onCancel={() => setAdding(false)}
          onMade={(made) => void navigate(`/routes/${made}`)}
        />
      </Dialog>
    </>
  );
}

function RouteList({ list, onAdd, canAdd }: { list: RouteView[]; onAdd: () => void; canAdd: boolean }) {
  const navigate = useNavigate();
  const onImported = (id: string) => void navigate(`/routes/${id}`);
  if (list.length === 0) {
    return (
      <Empty
        title="No routes yet"
        action={
          canAdd ? (
            <button className="btn btn-sm btn-primary" onClick={onAdd}>
              Make a route
            </button>
          ) : (
            <Link to="/sources" className="btn btn-sm btn-primary">
              Build a form first
            </Link>
          )
        }
      >
        A route wires one source to its destinations: which field goes where, which list and tags people get, how they
        consent, and what happens to those who are there already.
      </Empty>
    );
  }
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Routes">
      <div className="flex items-center gap-4 p-4">
        <h1 className="text-xl font-semibold">Routes</h1>
        <span className="ml-auto" />
        <ImportButton what="route" onImported={onImported} />
        <button className="btn btn-sm" onClick={onAdd}>
          <Plus size={15} aria-hidden="true" /> Route
        </button>
      </div>
      <table className="rows w-full" onKeyDown={moveInList}>
        <thead>
          <tr>
            <th scope="col">Route</th>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">State</th>
            <th scope="col">Delivered, last 24 hours</th>
            <th scope="col">Held</th>
            <th scope="col">Checks</th>
          </tr>
        </thead>
        <tbody>
          {list.map(({ id, name, sourceNames, targetNames, state, changed, liveVersion, hours, held, findings }) => {
            const blockers = findings.filter(({ level }) => level === 'blocker').length;
            return (
              <tr key={id} data-link>
                <td>
                  <Link data-row to={`/routes/${id}`} className="plain-link font-semibold">
                    {name}
                  </Link>
                </td>
                <td>{sourceNames.join(' · ')}</td>
                <td>{targetNames.join(' · ') || <span className="text-quiet">nowhere yet</span>}</td>
                <td>
                  <StateMark state={state} />
                  {liveVersion !== null && changed && (
                    <div className="text-sm">
                      <StateMark state="changed" />
                    </div>
                  )}
                </td>
                <td>
                  <DotLine hours={hours} what="delivered" />
                </td>
                <td>
                  {held > 0 ? (
                    <Link
                      to={`/activity/deliveries?state=held&route=${id}`}
                      className="plain-link text-error font-semibold"
                      aria-label={`${held} held of ${name}`}
                    >
                      {held}
                    </Link>
                  ) : (
                    0
                  )}
                </td>
                <td>{blockers > 0 ? <StateMark state="blocker" /> : 'clear'}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function NewRoute({
  from,
  onCancel,
  onMade,
}: {
  /** The source that it is from; '' to be chosen. */
  from: string;
  onCancel: () => void;
  onMade: (id: string) => void;
}) {
  const sources = useSources();
  const add = useAddRoute();
  const [chosen, setChosen] = useState(from);
  const [tried, setTried] = useState(false);
  const only = sources.data?.length === 1 ? sources.data[0]?.id : undefined;
  const sourceId = chosen || (only ?? '');
  const submit = (name: string) => {
    setTried(true);
    if (sourceId === '') return;
    add.mutate({ name, sourceId }, { onSuccess: ({ id }) => onMade(id) });
  };
  return (
    <NameForm
      label="Name of the route"
      help='Say from where to where, such as "Sky letter to Tern Post".'
      action="Make the route"
      busy={add.isPending}
      error={add.error}
      onSubmit={submit}
      onCancel={onCancel}
    >
      <Field label="Source" error={tried && sourceId === '' ? 'Choose where the submissions come from.' : undefined}>
        <select className="select w-full" value={sourceId} onChange={(event) => setChosen(event.target.value)}>
          <option value="">choose a source</option>
          {sources.data?.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Field>
    </NameForm>
  );
}
