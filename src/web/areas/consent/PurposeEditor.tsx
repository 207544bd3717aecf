import { useState, type SubmitEvent } from 'react';
import { Link } from 'react-router';
import type { PurposeDraft } from '../../../core/consent/index.ts';
import type { PurposeView } from '../../../contract/purposes.ts';
import { ApiProblem } from '../../data/api.ts';
import { useArchivePurpose, useChangePurpose } from '../../data/purposes.ts';
import { ChannelBoxes } from '../../parts/ChannelBoxes.tsx';
import { Field } from '../../parts/Field.tsx';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { ActionError } from '../../parts/States.tsx';

/** One purpose: its name, the sentences by which people agree to it, its channels, and the routes that ask for it. */
export function PurposeEditor({ purpose }: { purpose: PurposeView }) {
  const { id, archived, routes } = purpose;
  const change = useChangePurpose();
  const archive = useArchivePurpose();
  const saved: PurposeDraft = { name: purpose.name, wordings: purpose.wordings, channels: purpose.channels };
  const [input, setInput] = useState(saved);
  const set = (part: Partial<PurposeDraft>) => setInput({ ...input, ...part });
  const problem = change.error instanceof ApiProblem ? change.error : null;
  const isChanged = JSON.stringify(input) !== JSON.stringify(saved);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    change.mutate({ purpose, input });
  };
  return (
    <div className="p-5 max-w-3xl flex flex-col gap-6">
      <h2 className="text-xl font-semibold">
        {purpose.name} {archived && <StateMark of="publishing" state="archived" />}
      </h2>
      <form className="flex flex-col gap-4" onSubmit={submit} noValidate>
        <Field label="Name" help="As people know it: they read it when they confirm." error={problem?.about('/name')}>
          <input className="input w-full" value={input.name} onChange={(event) => set({ name: event.target.value })} />
        </Field>
        <Field
          label="Sentences by which people agree to it"
          help="One a line, as forms show them. A route that asks in other words cannot go live. What people agreed to before stays written down as they saw it."
          error={problem?.issues.find(({ pointer }) => pointer.startsWith('/wordings'))?.detail}
        >
          <LinesInput lines={input.wordings} rows={5} onChange={(wordings) => set({ wordings })} />
        </Field>
        <fieldset className="flex flex-col gap-1">
          <legend className="font-semibold mb-1">People are reached by</legend>
          <ChannelBoxes chosen={input.channels} onChange={(channels) => set({ channels })} />
          {problem?.about('/channels') && <p className="text-error font-semibold">{problem.about('/channels')}</p>}
          <p className="text-muted text-sm">Consent by one says nothing of the others.</p>
        </fieldset>
        <ActionError error={problem && problem.issues.length > 0 ? null : change.error} />
        <div className="flex gap-2">
          <button className="btn btn-sm btn-primary" disabled={!isChanged || change.isPending}>
            Save
          </button>
          <button
            type="button"
            className="btn btn-sm"
            disabled={archive.isPending}
            onClick={() => archive.mutate({ id, archived })}
          >
            {archived ? 'Take it out of the archive' : 'Archive it'}
          </button>
        </div>
        <ActionError error={archive.error} />
      </form>
      <section>
        <h3 className="font-semibold mb-1">Routes that ask for it</h3>
        {routes.length === 0 && <p className="text-muted">None. Choose it in a route, under Consent.</p>}
        <ul>
          {routes.map((route) => (
            <li key={route.id} className="py-1">
              <Link to={`/routes/${route.id}`} className="plain-link">
                {route.name}
              </Link>{' '}
              <StateMark of="publishing" state={route.state} />
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
