import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useNavigate, useParams, useSearchParams } from 'react-router';
import type { RouteLine } from '../../../contract/entries.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { Field } from '../../parts/Field.tsx';
import { Chooser } from '../../parts/Chooser.tsx';
import { EntryMore } from '../../parts/entries/EntryDialog.tsx';
import { EntryFilter } from '../../parts/entries/EntryFilter.tsx';
import { foldersOf, useEntries } from '../../parts/entries/useEntries.ts';
import { LongBody } from '../../parts/LongBody.tsx';
import { moveInList } from '../../parts/keys.ts';
import { ImportButton } from '../../parts/ImportButton.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { useConnections } from '../../data/connections.ts';
import { ApiProblem } from '../../data/api.ts';
import { useSourceLines, useSources, useSourcesNamed } from '../../data/sources.ts';
import { RouteBench } from './RouteBench.tsx';
import { useAddRoute, useRoute, useRouteLines, useRoutes } from '../../data/routes.ts';
import { checksWord } from './checksWord.ts';

export function RoutesPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  // In the URL: a source's page leads here with itself as what the new route is from.
  const [params, setParams] = useSearchParams();
  const from = params.get('new');
  const setAdding = (is: boolean) => setParams(is ? { new: '' } : {}, { replace: !is });
  return (
    <>
      {id ? <OpenRoute key={id} id={id} /> : <RouteList onAdd={() => setAdding(true)} />}
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

/** A route on its bench. What was mapped in others is suggested once it is known: nobody waits for it. */
function OpenRoute({ id }: { id: string }) {
  const route = useRoute(id);
  const lines = useSourceLines();
  const connections = useConnections();
  const routes = useRoutes();
  const sources = useSources();
  const own = useSourcesNamed(route.data?.draft.sourceIds ?? []);
  const folders = foldersOf(useRouteLines().data ?? []);
  if (route.error instanceof ApiProblem && route.error.status === 404) return <Navigate to="/routes" replace />;
  return (
    <Loaded query={route}>
      {(open) => (
        <Loaded query={connections}>
          {(known) =>
            own.isPending && own.sources.length === 0 ? (
              <p className="p-6 text-muted">Loading</p>
            ) : (
              <RouteBench
                route={open}
                choices={lines.data ?? []}
                folders={folders}
                others={{ routes: routes.data ?? [], sources: sources.data ?? [] }}
                connections={known}
              />
            )
          }
        </Loaded>
      )}
    </Loaded>
  );
}

function RouteList({ onAdd }: { onAdd: () => void }) {
  const lines = useRouteLines();
  const canAdd = (useSourceLines().data?.length ?? 0) > 0;
  return <Loaded query={lines}>{(list) => <RouteTable list={list} onAdd={onAdd} canAdd={canAdd} />}</Loaded>;
}

const saysOf = ({ sourceNames, targetNames }: RouteLine): string => [...sourceNames, ...targetNames].join(' ');

function RouteTable({ list, onAdd, canAdd }: { list: RouteLine[]; onAdd: () => void; canAdd: boolean }) {
  const navigate = useNavigate();
  const entries = useEntries(list, saysOf);
  const folders = foldersOf(list);
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
      {list.length > 1 && (
        <div className="px-4 pb-3">
          <EntryFilter lines={list} entries={entries} what="a route" stateOf="publishing" />
        </div>
      )}
      <table className="rows w-full" aria-rowcount={entries.shown.length + 1} onKeyDown={moveInList}>
        <thead>
          <tr>
            {COLUMNS.map((column) => (
              <th key={column} scope="col">
                {column}
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">More</span>
            </th>
          </tr>
        </thead>
        <LongBody rows={entries.shown} keyOf={({ id }) => id} columns={COLUMNS.length + 1}>
          {(line) => <RouteCells line={line} folders={folders} />}
        </LongBody>
      </table>
      {entries.shown.length === 0 && <p className="px-4 py-3 text-muted">No route matches.</p>}
    </div>
  );
}

const COLUMNS = ['Route', 'From', 'To', 'State', 'Delivered, last 24 hours', 'Held', 'Checks'];

function RouteCells({ line, folders }: { line: RouteLine; folders: string[] }) {
  const { id, name, folder, sourceNames, targetNames, state, changed, liveVersion, hours, held, blockers, warnings } =
    line;
  return (
    <>
      <td>
        <Link data-row to={`/routes/${id}`} className="plain-link font-semibold">
          {name}
        </Link>
        {folder !== '' && <span className="block text-muted text-sm">{folder}</span>}
      </td>
      <td>{sourceNames.join(' · ')}</td>
      <td>{targetNames.join(' · ') || <span className="text-muted">nowhere yet</span>}</td>
      <td>
        <StateMark of="publishing" state={line.archivedAt === null ? state : 'archived'} />
        {liveVersion !== null && changed && (
          <div className="text-sm">
            <StateMark of="publishing" state="changed" />
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
      <td className="whitespace-nowrap">
        {blockers > 0 && <Count of={blockers} state="blocker" />}
        {warnings > 0 && <Count of={warnings} state="warning" />}
        {checksWord(line)}
      </td>
      <td>
        <EntryMore entries="routes" entry={line} folders={folders} />
      </td>
    </>
  );
}

const Count = ({ of, state }: { of: number; state: 'blocker' | 'warning' }) => (
  <span className="flex gap-1 items-center">
    <span aria-hidden="true">
      <StateMark of="finding" state={state} iconOnly />
    </span>
    {of} {of === 1 ? state : `${state}s`}
  </span>
);

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
  const sources = useSourceLines();
  const choices = (sources.data ?? []).filter(({ archivedAt }) => archivedAt === null);
  const add = useAddRoute();
  const [chosen, setChosen] = useState(from);
  const [tried, setTried] = useState(false);
  const only = choices.length === 1 ? choices[0]?.id : undefined;
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
        <Chooser
          label="Source"
          placeholder="choose a source"
          items={choices}
          value={sourceId}
          onChange={setChosen}
          className="w-full"
        />
      </Field>
    </NameForm>
  );
}
