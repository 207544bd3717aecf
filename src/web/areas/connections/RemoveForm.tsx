import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useRemoveConnection } from '../../data/connections.ts';

/** Removes a connection, after saying what will stop. One that is used asks for its name to be typed. */
export function RemoveForm({ connection, onDone }: { connection: ConnectionView; onDone: () => void }) {
  const { id, name, usedBy, waiting, serviceName } = connection;
  const remove = useRemoveConnection(id);
  const navigate = useNavigate();
  const [typed, setTyped] = useState('');
  const isUsed = usedBy.length > 0;
  return (
    <div className="flex flex-col gap-3">
      {isUsed ? (
        <>
          <p>
            <strong>{usedBy.map((route) => route.name).join(', ')}</strong> {usedBy.length === 1 ? 'sends' : 'send'}{' '}
            people there. That stops: whoever comes from now on does not arrive in {serviceName},{' '}
            {waiting > 0 ? `and ${waiting} on the way are held` : 'and nothing is on the way'}.
          </p>
          <Field label="Type the name of the connection to remove it" help={name}>
            <input className="input w-full" value={typed} onChange={(event) => setTyped(event.target.value)} />
          </Field>
        </>
      ) : (
        <p>
          No route uses it. Its credentials are deleted here; in {serviceName} nothing changes. This cannot be undone.
        </p>
      )}
      <ActionError error={remove.error} />
      <div className="flex gap-2">
        <button
          className="btn btn-sm btn-error"
          disabled={remove.isPending || (isUsed && typed.trim() !== name)}
          onClick={() => remove.mutate(undefined, { onSuccess: () => void navigate('/connections') })}
        >
          Remove
        </button>
        <button className="btn btn-sm" onClick={onDone}>
          Keep it
        </button>
      </div>
    </div>
  );
}
