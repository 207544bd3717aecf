import { useState, type SubmitEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import type { CredentialInputs, ProfileView } from '../../../contract/connection.ts';
import { ApiProblem } from '../../data/api.ts';
import { CopyButton } from '../../parts/CopyButton.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { TickBox } from '../../parts/TickBox.tsx';
import { CredentialFields } from './CredentialFields.tsx';
import { useAddConnection, useGrant, useTryConnection } from '../../data/connections.ts';
import { VerifyReport } from './VerifyReport.tsx';

/** What lets us into one account of a service: verified, then saved. Where access is granted there, it is saved, then granted. */
export function NewConnectionForm({ profile }: { profile: ProfileView }) {
  const navigate = useNavigate();
  const attempt = useTryConnection();
  const add = useAddConnection();
  const grant = useGrant();
  const [name, setName] = useState(profile.name);
  const [baseUrl, setBaseUrl] = useState(profile.baseUrl.preset ?? '');
  const [credentials, setCredentials] = useState<CredentialInputs>({});
  const input = { profile: profile.id, name, baseUrl, credentials };
  const isGranted = profile.returnUrl !== '';
  const [listen, setListen] = useState(true);
  // Where access is granted first, nothing can be asked for before.
  const mayListen = profile.tells && !isGranted;

  const result = attempt.data;
  const wrong = result && !result.ok ? result : null;
  const refused = [add.error, attempt.error].find((error) => error instanceof ApiProblem) ?? null;
  const errorOf = (part: string, pointer: string) =>
    refused?.about(pointer) ?? (wrong?.about === part ? wrong.problem : undefined);
  const isBusy = attempt.isPending || add.isPending || grant.isPending;

  const save = (event: SubmitEvent) => {
    event.preventDefault();
    attempt.reset();
    add.mutate(
      { ...input, listen: mayListen && listen },
      {
        onSuccess: ({ id }) => {
          if (isGranted) grant.mutate(id);
          else void navigate(`/connections/${id}`);
        },
      },
    );
  };
  const verify = (more: Partial<typeof input> = {}) => {
    add.reset();
    attempt.mutate({ ...input, ...more });
  };
  const takeInstead = (better: string) => {
    setBaseUrl(better);
    verify({ baseUrl: better });
  };

  return (
    <form onSubmit={save} className="max-w-xl flex flex-col gap-5" noValidate>
      <Field label="Name" help="How you tell several accounts apart." error={errorOf('name', '/name')}>
        <input
          className="input w-full"
          autoComplete="off"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      {profile.baseUrl.preset === undefined && (
        <Field label={profile.baseUrl.label} help={profile.baseUrl.help} error={errorOf('baseUrl', '/baseUrl')}>
          <input
            className="input w-full font-mono"
            type={profile.authentication === 'secret address' ? 'password' : 'text'}
            autoComplete="off"
            spellCheck={false}
            value={baseUrl}
            onChange={(event) => setBaseUrl(event.target.value)}
          />
        </Field>
      )}
      {isGranted && (
        <div className="flex flex-col gap-1">
          <span className="font-semibold">Return address</span>
          <span className="flex flex-wrap gap-2 items-center">
            <code className="font-mono text-sm break-all">{profile.returnUrl}</code>
            <CopyButton text={profile.returnUrl} label="Copy" />
          </span>
          <p className="text-muted text-sm">
            Give it to {profile.name} when you register Iwashi there: it sends you back here after you granted access.
          </p>
        </div>
      )}
      <CredentialFields
        credentials={profile.credentials}
        values={credentials}
        errorOf={(part) => errorOf(part, `/credentials/${part}`)}
        onChange={setCredentials}
      />
      {mayListen && (
        <TickBox
          label={`Listen to what ${profile.name} tells`}
          help="Who unsubscribes there is written down here as consent withdrawn; who is blocked there, as blocked."
          checked={listen}
          onChange={setListen}
        />
      )}
      {attempt.isPending && <p role="status">Asking {profile.name} who we are there</p>}
      {result && (
        <div className="box p-4">
          <VerifyReport result={result} calls={profile.calls} onUse={takeInstead} />
        </div>
      )}
      <ActionError error={refused && refused.issues.length > 0 ? null : (add.error ?? attempt.error ?? grant.error)} />
      <div className="flex flex-wrap gap-2">
        {!isGranted && (
          <button
            type="button"
            className={`btn ${result?.ok ? '' : 'btn-primary'}`}
            onClick={() => verify()}
            disabled={isBusy}
          >
            Verify
          </button>
        )}
        <button className={`btn ${result?.ok || isGranted ? 'btn-primary' : ''}`} disabled={isBusy}>
          {saveLabel(profile, { isGranted, isSaving: add.isPending || grant.isPending })}
        </button>
        <Link to="/connections" className="btn btn-ghost">
          Cancel
        </Link>
      </div>
      {isGranted && (
        <p className="text-muted text-sm">
          {profile.name} opens in this window and asks whether you agree. Afterwards you are back here.
        </p>
      )}
    </form>
  );
}

function saveLabel({ name }: ProfileView, { isGranted, isSaving }: { isGranted: boolean; isSaving: boolean }): string {
  if (isGranted) return isSaving ? `Going to ${name}` : `Save, and grant access in ${name}`;
  return isSaving ? 'Verifying and saving' : 'Save';
}
