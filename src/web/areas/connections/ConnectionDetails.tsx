import { RefreshCw, Trash2 } from 'lucide-react';
import { useState, type SubmitEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import type { ConnectionView } from '../../../contract/connection.ts';
import { ApiProblem } from '../../parts/api.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { DotLine } from '../../parts/DotLine.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { useChangeConnection, useRemoveConnection, useVerifyConnection } from './useConnections.ts';
import { VerifyReport } from './VerifyReport.tsx';

export function ConnectionDetails({ connection }: { connection: ConnectionView }) {
  const { id, name, baseUrl, keyHint, verify, usedBy, held, hours, lastSuccessAt, serviceName } = connection;
  const again = useVerifyConnection(id);
  const remove = useRemoveConnection(id);
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const [removing, setRemoving] = useState(false);
  useTellOpen(name, verify?.ok ? 'connected' : 'not working', 'verified', verify?.at ?? null);
  return (
    <div className="p-5 flex flex-col gap-6 max-w-3xl">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <div>
          <h2 className="text-xl font-semibold">{name}</h2>
          <p className="text-quiet">{serviceName}</p>
        </div>
        <div className="flex gap-2">
          <button className="btn btn-sm btn-primary" onClick={() => again.mutate(undefined)} disabled={again.isPending}>
            <RefreshCw size={15} aria-hidden="true" /> {again.isPending ? 'Verifying' : 'Verify'}
          </button>
          <button className="btn btn-sm" onClick={() => setEditing(true)}>
            Change name, address or key
          </button>
          <button
            className="btn btn-sm btn-ghost"
            onClick={() => setRemoving(true)}
            aria-label="Remove this connection"
          >
            <Trash2 size={15} aria-hidden="true" />
          </button>
        </div>
      </div>

      {verify && (
        <div className="box p-4">
          <VerifyReport result={verify} />
        </div>
      )}
      <ActionError error={again.error} />

      <dl className="grid grid-cols-[10rem_1fr] gap-y-2">
        <dt className="text-quiet">Base URL</dt>
        <dd className="font-mono text-sm break-all">{baseUrl}</dd>
        <dt className="text-quiet">API key</dt>
        <dd className="font-mono text-sm">{keyHint}</dd>
        <dt className="text-quiet">Last 24 hours</dt>
        <dd>
          <DotLine hours={hours} what="delivered" />
        </dd>
        <dt className="text-quiet">Last success</dt>
        <dd>{lastSuccessAt ? <Time at={lastSuccessAt} /> : 'none yet'}</dd>
        <dt className="text-quiet">Held</dt>
        <dd>
          {held > 0 ? (
            <Link to={`/activity/deliveries?state=held&connection=${id}`} className="plain-link text-error">
              {held} held
            </Link>
          ) : (
            'none'
          )}
        </dd>
        <dt className="text-quiet">Used by</dt>
        <dd>
          {usedBy.length === 0
            ? 'no route yet'
            : usedBy.map((route, index) => (
                <span key={route.id}>
                  {index > 0 && ', '}
                  <Link to={`/routes/${route.id}`} className="plain-link">
                    {route.name}
                  </Link>
                </span>
              ))}
        </dd>
      </dl>

      <Dialog title="Change name, address or key" open={editing} onClose={() => setEditing(false)}>
        <ChangeForm connection={connection} onDone={() => setEditing(false)} />
      </Dialog>
      <Dialog title={`Remove ${name}?`} open={removing} onClose={() => setRemoving(false)}>
        {usedBy.length > 0 ? (
          <p>
            It is used by {usedBy.map((route) => route.name).join(', ')}. Take it out of there first; otherwise people
            would silently not arrive.
          </p>
        ) : (
          <p>No route uses it. Its key is deleted here; in {serviceName} nothing changes. This cannot be undone.</p>
        )}
        <ActionError error={remove.error} />
        <div className="flex gap-2 mt-4">
          {usedBy.length === 0 && (
            <button
              className="btn btn-sm btn-error"
              onClick={() => {
                remove.mutate(undefined, { onSuccess: () => void navigate('/connections') });
              }}
            >
              Remove
            </button>
          )}
          <button className="btn btn-sm" onClick={() => setRemoving(false)}>
            Keep it
          </button>
        </div>
      </Dialog>
    </div>
  );
}

function ChangeForm({ connection, onDone }: { connection: ConnectionView; onDone: () => void }) {
  const change = useChangeConnection(connection.id);
  const [name, setName] = useState(connection.name);
  const [baseUrl, setBaseUrl] = useState(connection.baseUrl);
  const [key, setKey] = useState('');
  const problem = change.error instanceof ApiProblem ? change.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    change.mutate(
      { profile: connection.profile, name, baseUrl, ...(key === '' ? {} : { key }) },
      { onSuccess: onDone },
    );
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
      <Field label="Name" error={problem?.about('/name')}>
        <input className="input w-full" value={name} onChange={(event) => setName(event.target.value)} />
      </Field>
      <Field label="Base URL" error={problem?.about('/baseUrl')}>
        <input
          className="input w-full font-mono"
          value={baseUrl}
          onChange={(event) => setBaseUrl(event.target.value)}
          spellCheck={false}
        />
      </Field>
      <Field
        label="New API key"
        help={`Leave it empty to keep ${connection.keyHint}. The new key is verified before the old one is let go.`}
        error={problem?.about('/key')}
      >
        <input
          className="input w-full font-mono"
          type="password"
          autoComplete="off"
          value={key}
          onChange={(event) => setKey(event.target.value)}
        />
      </Field>
      <ActionError error={change.error} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={change.isPending}>
          {change.isPending ? 'Verifying' : 'Save'}
        </button>
        <button type="button" className="btn btn-sm" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
