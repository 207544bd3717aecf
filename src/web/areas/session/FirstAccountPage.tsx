import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { FirstAccount, type SessionView } from '../../../contract/session.ts';
import { api, rememberCsrf } from '../../parts/api.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';

/** Where the one-time link leads: makes the first account. */
export function FirstAccountPage() {
  const navigate = useNavigate();
  const [trouble, setTrouble] = useState<unknown>(null);
  const { register, handleSubmit, formState } = useForm<FirstAccount>({
    resolver: classValidatorResolver(FirstAccount),
    defaultValues: { token: location.hash.slice(1), name: '', email: '', password: '' },
  });
  const { errors, isSubmitting } = formState;
  const submit = handleSubmit(async (input) => {
    try {
      rememberCsrf((await api.post<SessionView>('/session/first', input)).csrf);
      void navigate('/', { replace: true });
    } catch (error) {
      setTrouble(error);
    }
  });
  return (
    <main className="min-h-dvh grid place-items-center bg-base-200 p-4">
      <form onSubmit={(event) => void submit(event)} className="box p-8 w-full max-w-sm flex flex-col gap-4" noValidate>
        <h1 className="text-2xl font-semibold text-primary">Make the first account</h1>
        <Field label="Your name" error={errors.name?.message}>
          <input className="input w-full" autoComplete="name" {...register('name')} />
        </Field>
        <Field label="Email" error={errors.email?.message}>
          <input className="input w-full" type="email" autoComplete="username" {...register('email')} />
        </Field>
        <Field
          label="Password"
          help="At least 12 characters; three unusual words do well."
          error={errors.password?.message}
        >
          <input className="input w-full" type="password" autoComplete="new-password" {...register('password')} />
        </Field>
        {errors.token && <p className="text-error font-semibold">{errors.token.message}</p>}
        <ActionError error={trouble} />
        <button className="btn btn-primary" disabled={isSubmitting}>
          Make the account
        </button>
      </form>
    </main>
  );
}
