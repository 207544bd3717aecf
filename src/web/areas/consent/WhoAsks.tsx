import { useState, type SubmitEvent } from 'react';
import type { OrganisationView } from '../../../contract/organisation.ts';
import { ApiProblem } from '../../data/api.ts';
import { useNameOrganisation } from '../../data/organisation.ts';
import { Field } from '../../parts/Field.tsx';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { ActionError } from '../../parts/States.tsx';

/** By which names people know whoever asks them: routes warn where a sentence or a mail says none of them. */
export function WhoAsks({ saved }: { saved: OrganisationView }) {
  const change = useNameOrganisation();
  const [names, setNames] = useState(saved.names);
  const problem = change.error instanceof ApiProblem ? change.error : null;
  const wrong = problem?.issues.find(({ pointer }) => pointer.startsWith('/names'))?.detail;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    change.mutate({ names });
  };
  return (
    <div className="p-5 max-w-3xl flex flex-col gap-6">
      <h2 className="text-xl font-semibold">Who asks</h2>
      <p className="max-w-prose">
        People consent to somebody they know. Before a route goes live, its sentences and its confirmation mail are
        looked through for one of these names; where none is in them, the route says so.
      </p>
      <form className="flex flex-col gap-4" onSubmit={submit} noValidate>
        <Field
          label="Names by which people know you"
          help="One a line, three at most: your organisation as it signs, and how people shorten it."
          error={wrong}
        >
          <LinesInput lines={names} rows={3} onChange={setNames} />
        </Field>
        <ActionError error={wrong === undefined ? change.error : null} />
        <div className="flex gap-3 items-center">
          <button
            className="btn btn-sm btn-primary"
            disabled={names.join('\n') === saved.names.join('\n') || change.isPending}
          >
            Save
          </button>
          <span role="status" className="text-muted text-sm">
            {change.isSuccess && names.join('\n') === saved.names.join('\n') ? 'Saved.' : ''}
          </span>
        </div>
      </form>
    </div>
  );
}
