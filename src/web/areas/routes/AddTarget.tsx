import { Link } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import { Chooser } from '../../parts/Chooser.tsx';

/** More are found by typing. */
const MOST_BUTTONS = 10;

/** Where a route can lead to as well: each connection, once it is known what it offers. */
export function AddTarget({
  connections,
  isFirst,
  onAdd,
}: {
  connections: ConnectionView[];
  isFirst: boolean;
  onAdd: (connection: ConnectionView) => void;
}) {
  if (connections.length === 0) {
    return (
      <p>
        There is no connection to send to.{' '}
        <Link className="plain-link" to="/connections/new">
          Add one
        </Link>
        .
      </p>
    );
  }
  return (
    <section className="flex flex-col gap-3" aria-labelledby="add-target">
      <h3 id="add-target" className="text-lg font-semibold">
        {isFirst ? 'Where does it go?' : 'Send it somewhere else as well'}
      </h3>
      {connections.length > MOST_BUTTONS ? (
        <Chooser
          label={isFirst ? 'Where does it go?' : 'Send it somewhere else as well'}
          placeholder="find a connection"
          items={connections
            .filter(({ catalogue }) => catalogue)
            .map(({ id, name, serviceName }) => ({ id, name, hint: serviceName }))}
          value=""
          onChange={(id) => {
            const chosen = connections.find((one) => one.id === id);
            if (chosen) onAdd(chosen);
          }}
          className="max-w-sm"
        />
      ) : (
        <ul className="flex flex-wrap gap-2">
          {connections.map((connection) => (
            <li key={connection.id}>
              <button
                disabled={!connection.catalogue}
                className={`btn btn-sm ${isFirst ? 'btn-primary' : ''}`}
                onClick={() => onAdd(connection)}
              >
                {connection.name}
              </button>
            </li>
          ))}
        </ul>
      )}
      {connections.some(({ catalogue }) => !catalogue) && (
        <p className="text-muted text-sm">
          A connection can be chosen once it is verified: until then its fields are not known.
        </p>
      )}
    </section>
  );
}
