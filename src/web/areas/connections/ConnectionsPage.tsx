import { Plug, Plus } from 'lucide-react';
import { useState } from 'react';
import { Link, Navigate, useLocation, useParams } from 'react-router';
import type { ConnectionLine } from '../../../contract/entries.ts';
import type { ConnectionView } from '../../../contract/connection.ts';
import { DotLine } from '../../parts/DotLine.tsx';
import { EntryMore } from '../../parts/entries/EntryDialog.tsx';
import { EntryList } from '../../parts/entries/EntryList.tsx';
import { foldersOf } from '../../parts/entries/useEntries.ts';
import { Empty, Loaded } from '../../parts/States.tsx';
import { Working } from '../../parts/Working.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { CatalogueView } from './CatalogueView.tsx';
import { ConnectionDetails } from './ConnectionDetails.tsx';
import { RemoveForm } from './RemoveForm.tsx';
import { connectionStanding, type ConnectionStanding } from '../../parts/connectionStanding.ts';
import { useConnectionLines, useConnections } from '../../data/connections.ts';

export function ConnectionsPage() {
  const connections = useConnections();
  const { id } = useParams();
  const { search } = useLocation();
  return (
    <Loaded query={connections}>
      {(list) => {
        if (list.length === 0) {
          return (
            <Empty
              title="No connections yet"
              action={
                <Link to="/connections/new" className="btn btn-sm btn-primary">
                  <Plug size={15} aria-hidden="true" /> Add a connection
                </Link>
              }
            >
              A connection is access to one account of another system: a mailing list, customer records, a sheet, team
              messages. You need its address, and what lets you in.
            </Empty>
          );
        }
        const open = list.find((connection) => connection.id === id);
        // It may be new: what is known of before does not have it.
        if (!open && id !== undefined && connections.isFetching) return <p className="p-6 text-muted">Loading</p>;
        if (!open) return <Navigate to={{ pathname: `/connections/${list[0]?.id}`, search }} replace />;
        return (
          <Working
            id="connections"
            leftLabel="Connections"
            left={<ConnectionList openId={open.id} />}
            middle={<ConnectionDetails key={open.id} connection={open} />}
            rightLabel="What the service offers"
            right={<CatalogueView connection={open} />}
          />
        );
      }}
    </Loaded>
  );
}

type Line = Omit<ConnectionLine, 'state'> & { state: ConnectionStanding };

const saysOf = ({ serviceName }: Line): string => serviceName;

function ConnectionList({ openId }: { openId: string }) {
  const lines = useConnectionLines();
  const connections = useConnections();
  return (
    <Loaded query={lines}>
      {(all) => {
        const folders = foldersOf(all);
        return (
          <EntryList
            title="Connections"
            what="a connection"
            stateOf="connection"
            lines={all.map((line): Line => ({ ...line, state: connectionStanding(line) }))}
            openId={openId}
            to={(id) => `/connections/${id}`}
            saysOf={saysOf}
            actions={
              <Link to="/connections/new" className="btn btn-sm">
                <Plus size={15} aria-hidden="true" /> Add
              </Link>
            }
            more={(line) => (
              <EntryMore
                entries="connections"
                entry={line}
                folders={folders}
                instead={<Removal connection={connections.data?.find(({ id }) => id === line.id)} />}
              />
            )}
          >
            {({ name, serviceName, folder, state, held, hours }) => (
              <>
                <strong className="font-semibold block truncate" title={name}>
                  {name}
                </strong>
                <span className="flex justify-between gap-2 items-center text-muted text-sm">
                  <span className="truncate">{[serviceName, folder].filter((text) => text !== '').join(' · ')}</span>
                  <span className="flex gap-2">
                    {held > 0 && <span className="text-error font-semibold whitespace-nowrap">{held} held</span>}
                    <StateMark of="connection" state={state} iconOnly />
                  </span>
                </span>
                <DotLine hours={hours} what="delivered" />
              </>
            )}
          </EntryList>
        );
      }}
    </Loaded>
  );
}

/** Removing a connection, once it is asked for. */
function Removal({ connection }: { connection: ConnectionView | undefined }) {
  const [asking, setAsking] = useState(false);
  if (!connection) return null;
  if (asking) return <RemoveForm connection={connection} onDone={() => setAsking(false)} />;
  return (
    <button className="btn btn-sm" onClick={() => setAsking(true)}>
      Remove it
    </button>
  );
}
