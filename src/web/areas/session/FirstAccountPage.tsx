import { useState, type SubmitEvent } from 'react';
import { useNavigate } from 'react-router';
import { ApiProblem } from '../../data/api.ts';
import { useFirstAccount } from '../../data/session.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';

/** Where the one-time link leads: makes the first account. */
export function FirstAccountPage() {
  const navigate = useNavigate();
  const make = useFirstAccount();
  const [input, setInput] = useState({ token: location.hash.slice(1), name: '', email: '', password: '' });
  const set = (part: Partial<typeof input>) => setInput({ ...input, ...part });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    make.mutate(input, { onSuccess: () => void navigate('/', { replace: true }) });
  };
  const problem = make.error instanceof ApiProblem ? make.error : null;
  const isSaidBeside = problem !== null && problem.issues.some(({ pointer }) => pointer !== '/token');
  return (
    <main className="min-h-dvh grid place-items-center bg-base-200 p-4">
      <form onSubmit={submit} className="box p-8 w-full max-w-sm flex flex-col gap-4" noValidate>
        <h1 className="text-2xl font-semibold text-primary">Make the first account</h1>
        <Field label="Your name" error={problem?.about('/name')}>
          <input
            className="input w-full"
            autoComplete="name"
            value={input.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </Field>
        <Field label="Email" error={problem?.about('/email')}>
          <input
            className="input w-full"
            type="email"
            autoComplete="username"
            value={input.email}
            onChange={(event) => set({ email: event.target.value })}
          />
        </Field>
        <Field
          label="Password"
          help="At least 12 characters; three unusual words do well."
          error={problem?.about('/password')}
        >
          <input
            className="input w-full"
            type="password"
            autoComplete="new-password"
            value={input.password}
            onChange={(event) => set({ password: event.target.value })}
          />
        </Field>
        {problem?.about('/token') && <p className="text-error font-semibold">{problem.about('/token')}</p>}
        <ActionError error={isSaidBeside ? null : make.error} />
        <button className="btn btn-primary" disabled={make.isPending}>
          Make the account
        </button>
      </form>
    </main>
  );
}
