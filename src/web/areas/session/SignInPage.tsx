import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type SubmitEvent } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import type { SessionView } from '../../../contract/session.ts';
import { api, ApiProblem, rememberCsrf } from '../../parts/api.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';

interface SignInState {
  hasAccount: boolean;
  demo: { email: string; password: string } | null;
}

export function SignInPage() {
  const state = useQuery({ queryKey: ['session-state'], queryFn: () => api.get<SignInState>('/session/state') });
  return (
    <main className="min-h-dvh grid place-items-center bg-base-200 p-4">
      <div className="box p-8 w-full max-w-sm">
        <h1 className="text-2xl font-semibold text-primary tracking-wide">iwashi</h1>
        <p className="text-quiet mb-6">What visitors hand over, in the right lists, with proof.</p>
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
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const queries = useQueryClient();
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const session = await api.post<SessionView>('/session', { email, password });
      rememberCsrf(session.csrf);
      queries.setQueryData(['session'], session);
      const to = params.get('to') ?? '/';
      void navigate(/^\/(?!\/)/.test(to) ? to : '/', { replace: true });
    } catch (problem) {
      setError(problem);
      setBusy(false);
    }
  };
  const problem = error instanceof ApiProblem ? error : null;
  return (
    <form onSubmit={(event) => void submit(event)} className="flex flex-col gap-4" noValidate>
      {demo && <p className="text-sm text-quiet">This is a demo; its sign-in is filled in.</p>}
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
