import { useState, type SubmitEvent } from 'react';
import { ApiProblem } from '../../data/api.ts';
import { useChangePassword, useSession } from '../../data/session.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';

const NOTHING = { present: '', next: '' };

/** Another password for one's own account. */
export function PasswordForm() {
  const change = useChangePassword();
  const email = useSession().data?.account.email ?? '';
  const [input, setInput] = useState(NOTHING);
  const problem = change.error instanceof ApiProblem ? change.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    change.mutate(input, { onSuccess: () => setInput(NOTHING) });
  };
  const field = (part: keyof typeof NOTHING, autoComplete: string) => (
    <input
      className="input w-full"
      type="password"
      autoComplete={autoComplete}
      value={input[part]}
      onChange={(event) => setInput({ ...input, [part]: event.target.value })}
    />
  );
  return (
    <form onSubmit={submit} className="box p-4 flex flex-col gap-4" noValidate>
      <h2 className="font-semibold text-lg">Change the password</h2>
      {/* By it, what keeps passwords in a browser knows whose it is. */}
      <input type="email" autoComplete="username" value={email} readOnly hidden />
      <div className="grid sm:grid-cols-2 gap-4">
        <Field label="Present password" error={problem?.about('/present')}>
          {field('present', 'current-password')}
        </Field>
        <Field
          label="New password"
          help="At least 12 characters; three unusual words do well."
          error={problem?.about('/next')}
        >
          {field('next', 'new-password')}
        </Field>
      </div>
      <ActionError error={problem?.issues.length ? null : change.error} />
      <div className="flex flex-wrap items-center gap-3">
        <button className="btn btn-sm btn-primary" disabled={change.isPending}>
          {change.isPending ? 'Changing it' : 'Change it'}
        </button>
        <p role="status" className="text-muted">
          {change.data
            ? `It is changed${change.data.ended > 0 ? `; signed out at ${change.data.ended} other ${change.data.ended === 1 ? 'browser' : 'browsers'}` : ''}. Tokens of programs stay as they are.`
            : 'Every other browser is signed out by it.'}
        </p>
      </div>
    </form>
  );
}
