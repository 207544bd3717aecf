import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm, useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { ConnectionInput } from '../../../contract/connection.ts';
import { ApiProblem } from '../../parts/api.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { useAddConnection, useProfiles, useTryConnection, type ProfileView } from './useConnections.ts';
import { VerifyReport } from './VerifyReport.tsx';

export function NewConnectionPage() {
  const profiles = useProfiles();
  return (
    <div className="h-full overflow-auto p-6" tabIndex={0} role="region" aria-label="Add a connection">
      <h1 className="text-xl font-semibold mb-1">Add a connection</h1>
      <p className="text-quiet mb-5 max-w-xl">
        A connection is access to one account of one other system. Verify it first; then save it.
      </p>
      <Loaded query={profiles}>{(list) => <ConnectionForm profiles={list} />}</Loaded>
    </div>
  );
}

function ConnectionForm({ profiles }: { profiles: ProfileView[] }) {
  const navigate = useNavigate();
  const attempt = useTryConnection();
  const add = useAddConnection();
  const first = profiles[0];
  const { register, handleSubmit, formState, control } = useForm<ConnectionInput>({
    resolver: classValidatorResolver(ConnectionInput),
    defaultValues: { profile: first?.id ?? '', name: first?.name ?? '', baseUrl: '', key: '' },
  });
  const { errors } = formState;
  const chosen = useWatch({ control, name: 'profile' });
  const profile = profiles.find(({ id }) => id === chosen) ?? first;
  const refused = add.error instanceof ApiProblem ? add.error : null;
  const result = attempt.data;
  const wrong = result && !result.ok ? result : null;
  const about = (part: 'baseUrl' | 'key') =>
    errors[part]?.message ?? (wrong?.about === part ? wrong.problem : undefined) ?? refused?.about(`/${part}`);
  const verify = handleSubmit((input) => attempt.mutate(input));
  const save = handleSubmit(async (input) => {
    const { id } = await add.mutateAsync(input);
    void navigate(`/connections/${id}`);
  });
  return (
    <form onSubmit={(event) => void save(event).catch(() => {})} className="max-w-xl flex flex-col gap-5" noValidate>
      <Field label="Kind of service">
        <select className="select w-full" {...register('profile')}>
          {profiles.map(({ id, name, purpose }) => (
            <option key={id} value={id}>
              {name} ({purpose})
            </option>
          ))}
        </select>
      </Field>
      <Field label="Name" help="How you tell several accounts apart." error={errors.name?.message}>
        <input className="input w-full" autoComplete="off" {...register('name')} />
      </Field>
      <Field label="Base URL" help={profile?.baseUrlHelp} error={about('baseUrl')}>
        <input
          className="input w-full font-mono"
          placeholder="https://"
          autoComplete="off"
          spellCheck={false}
          {...register('baseUrl')}
        />
      </Field>
      <Field label="API key" help={profile?.keyHelp} error={about('key')}>
        <input
          className="input w-full font-mono"
          type="password"
          autoComplete="off"
          spellCheck={false}
          {...register('key')}
        />
      </Field>
      {attempt.isPending && <p role="status">Asking {profile?.name} who this key belongs to</p>}
      {result && (
        <div className="box p-4">
          <VerifyReport result={result} />
        </div>
      )}
      <ActionError error={attempt.error ?? (refused && refused.issues.length === 0 ? refused : null)} />
      <div className="flex gap-2">
        <button
          type="button"
          className={`btn ${result?.ok ? '' : 'btn-primary'}`}
          onClick={() => void verify()}
          disabled={attempt.isPending}
        >
          Verify
        </button>
        <button className={`btn ${result?.ok ? 'btn-primary' : ''}`} disabled={add.isPending}>
          {add.isPending ? 'Verifying and saving' : 'Save'}
        </button>
        <Link to="/connections" className="btn btn-ghost">
          Cancel
        </Link>
      </div>
    </form>
  );
}
