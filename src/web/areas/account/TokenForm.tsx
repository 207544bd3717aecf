import { useState, type SubmitEvent } from 'react';
import { SCOPES, type NewTokenView, type Scope } from '../../../contract/tokens.ts';
import { ApiProblem } from '../../data/api.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useMakeToken } from '../../data/tokens.ts';

const SCOPE_LIST = Object.entries(SCOPES) as [Scope, string][];

/** Makes a token: what it is for, what it may do, when it ends. */
export function TokenForm({ onMade }: { onMade: (token: NewTokenView) => void }) {
  const make = useMakeToken();
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<Scope[]>([]);
  const [days, setDays] = useState('365');
  const problem = make.error instanceof ApiProblem ? make.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    make.mutate(
      { name, scopes, days: days === '' ? null : Number(days) },
      {
        onSuccess: (token) => {
          onMade(token);
          setName('');
          setScopes([]);
        },
      },
    );
  };
  return (
    <form onSubmit={submit} className="box p-4 flex flex-col gap-4" noValidate>
      <h2 className="font-semibold text-lg">Make a token</h2>
      <Field label="What it is for" error={problem?.about('/name')}>
        <input className="input w-full" value={name} onChange={(event) => setName(event.target.value)} />
      </Field>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold mb-1">What it may do</legend>
        {SCOPE_LIST.map(([scope, meaning]) => (
          <label key={scope} className="flex gap-2 items-baseline">
            <input
              type="checkbox"
              className="checkbox checkbox-sm self-center"
              checked={scopes.includes(scope)}
              onChange={(event) =>
                setScopes(event.target.checked ? [...scopes, scope] : scopes.filter((one) => one !== scope))
              }
            />
            <span>
              <code className="font-mono text-sm">{scope}</code> <span className="text-muted">{meaning}</span>
            </span>
          </label>
        ))}
        {problem?.about('/scopes') && <p className="text-error font-semibold">{problem.about('/scopes')}</p>}
      </fieldset>
      <Field label="Ends after how many days" help="Empty for never." error={problem?.about('/days')}>
        <input
          className="input w-32"
          inputMode="numeric"
          value={days}
          onChange={(event) => setDays(event.target.value.trim())}
        />
      </Field>
      <ActionError error={problem && problem.issues.length > 0 ? null : make.error} />
      <button className="btn btn-sm btn-primary self-start" disabled={make.isPending}>
        Make it
      </button>
    </form>
  );
}
