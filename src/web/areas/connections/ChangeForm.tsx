import { useState, type SubmitEvent } from 'react';
import type { ConnectionView, CredentialInputs } from '../../../contract/connection.ts';
import { ApiProblem } from '../../data/api.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { CredentialFields } from './CredentialFields.tsx';
import { useChangeConnection } from '../../data/connections.ts';

/** Changes name, address or credentials; new ones are verified before the old ones are let go. */
export function ChangeForm({ connection, onDone }: { connection: ConnectionView; onDone: () => void }) {
  const change = useChangeConnection(connection.id);
  const isSecretAddress = connection.authentication === 'secret address';
  const [name, setName] = useState(connection.name);
  const [baseUrl, setBaseUrl] = useState(isSecretAddress ? '' : connection.baseUrl);
  const [credentials, setCredentials] = useState<CredentialInputs>({});
  const problem = change.error instanceof ApiProblem ? change.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const address = baseUrl === '' ? connection.baseUrl : baseUrl;
    change.mutate({ profile: connection.profile, name, baseUrl: address, credentials }, { onSuccess: onDone });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
      <Field label="Name" error={problem?.about('/name')}>
        <input className="input w-full" value={name} onChange={(event) => setName(event.target.value)} />
      </Field>
      <Field
        label={isSecretAddress ? `New ${connection.baseUrlLabel}` : connection.baseUrlLabel}
        error={problem?.about('/baseUrl')}
        {...(isSecretAddress ? { help: `Leave it empty to keep ${connection.baseUrl}` } : {})}
      >
        <input
          className="input w-full font-mono"
          value={baseUrl}
          autoComplete="off"
          onChange={(event) => setBaseUrl(event.target.value)}
          spellCheck={false}
        />
      </Field>
      <CredentialFields
        credentials={connection.credentials}
        values={credentials}
        hints={connection.hints}
        errorOf={(part) => problem?.about(`/credentials/${part}`)}
        onChange={setCredentials}
      />
      <p className="text-muted text-sm">
        {connection.returnUrl === ''
          ? 'What is new is verified before the old is let go, so nothing stops meanwhile.'
          : 'Afterwards, grant access again; until then the present access stays in use.'}
      </p>
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
