import { Plug, Plus } from 'lucide-react';
import { Link, Navigate, useParams } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import { DotLine } from '../../parts/DotLine.tsx';
import { moveInList } from '../../parts/keys.ts';
import { Empty, Loaded } from '../../parts/States.tsx';
import { Working } from '../../parts/Working.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { CatalogueView } from './CatalogueView.tsx';
import { ConnectionDetails } from './ConnectionDetails.tsx';
import { connectionStanding } from './standing.ts';
import { useConnections } from '../../data/connections.ts';

export function ConnectionsPage() {
  const connections = useConnections();
  const { id } = useParams();
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
        if (!open) return <Navigate to={`/connections/${list[0]?.id}`} replace />;
        return (
          <Working
            id="connections"
            leftLabel="Connections"
            left={<ConnectionList list={list} openId={open.id} />}
            middle={<ConnectionDetails key={open.id} connection={open} />}
            rightLabel="What the service offers"
            right={<CatalogueView connection={open} />}
          />
        );
      }}
    </Loaded>
  );
}

function ConnectionList({ list, openId }: { list: ConnectionView[]; openId: string }) {
  return (
    <div onKeyDown={moveInList}>
      <div className="flex items-center justify-between p-3">
        <h1 className="font-semibold text-lg">Connections</h1>
        <Link to="/connections/new" className="btn btn-sm">
          <Plus size={15} aria-hidden="true" /> Add
        </Link>
      </div>
      <ul>
        {list.map((connection) => {
          const { id, name, serviceName, held, hours } = connection;
          return (
            <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
              <Link
                data-row
                to={`/connections/${id}`}
                aria-current={id === openId ? 'page' : undefined}
                className="block px-3 py-2.5 hover:bg-base-200"
              >
                <span className="flex justify-between gap-2">
                  <strong className="font-semibold">{name}</strong>
                  <StateMark state={connectionStanding(connection)} />
                </span>
                <span className="flex justify-between gap-2 items-center text-quiet text-sm">
                  {serviceName}
                  {held > 0 && <span className="text-error font-semibold">{held} held</span>}
                </span>
                <DotLine hours={hours} what="delivered" />
              </Link>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
