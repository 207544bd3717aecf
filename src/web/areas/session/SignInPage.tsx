import { useState, type SubmitEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { ApiProblem } from '../../data/api.ts';
import { useSignIn, useSignInState, type SignInState } from '../../data/session.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';

export function SignInPage() {
  const state = useSignInState();
  return (
    <main className="min-h-dvh grid place-items-center bg-base-200 p-4">
      <div className="box p-8 w-full max-w-sm">
        <h1 className="text-2xl font-semibold text-primary tracking-wide">iwashi</h1>
        <p className="text-muted mb-6">What visitors hand over, in the right lists, with proof.</p>
        {state.data && !state.data.hasAccount ? (
          <p>There is no account yet. Open the one-time link that Iwashi printed when it was started.</p>
        ) : (
          <SignInForm key={state.data?.demo?.email ?? ''} demo={state.data?.demo ?? null} />
        )}
      </div>
    </main>
  );
}

function SignInForm({ demo }: { demo: SignInState['demo'] }) {
  const [email, setEmail] = useState(demo?.email ?? '');
  const [password, setPassword] = useState(demo?.password ?? '');
  const signIn = useSignIn();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const to = params.get('to') ?? '/';
    const onSuccess = () => void navigate(/^\/(?!\/)/.test(to) ? to : '/', { replace: true });
    signIn.mutate({ email, password }, { onSuccess });
  };
  const { error, isPending: busy } = signIn;
  const problem = error instanceof ApiProblem ? error : null;
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" noValidate>
      {demo && <p className="text-sm text-muted">This is a demo; its sign-in is filled in.</p>}
      <Field label="Email" error={problem?.about('/email')}>
        <input
          className="input w-full"
          type="email"
          autoComplete="username"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </Field>
      <Field label="Password" error={problem?.about('/password')}>
        <input
          className="input w-full"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
      </Field>
      <ActionError error={error} />
      <button className="btn btn-primary" disabled={busy}>
        {busy ? 'Signing in' : 'Sign in'}
      </button>
    </form>
  );
}
