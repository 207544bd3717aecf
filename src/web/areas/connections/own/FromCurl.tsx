import { useState, type SubmitEvent } from 'react';
import type { Profile } from '../../../../contract/profile/index.ts';
import { ApiProblem } from '../../../data/api.ts';
import { useLocation } from 'react-router';
import { Field } from '../../../parts/Field.tsx';
import { useReadCurl } from '../../../data/profiles.ts';

/** Reads one example request, as services print it in their documentation. */
export function FromCurl({ onProfile }: { onProfile: (profile: Profile) => void }) {
  const read = useReadCurl();
  // Somebody may come with a request that was put together elsewhere.
  const [line, setLine] = useState((useLocation().state as { line?: string } | null)?.line ?? '');
  const problem = read.error instanceof ApiProblem ? read.error : null;
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    read.mutate(line, { onSuccess: ({ profile }) => onProfile(profile) });
  };
  return (
    <form onSubmit={submit} className="max-w-3xl flex flex-col gap-3 mb-6" noValidate>
      <Field
        label="The example, from curl on"
        help="The address in it becomes the person's; every other value becomes a field. Keys in it are not kept."
        error={problem?.about('/line') ?? problem?.message}
      >
        <textarea
          className="textarea w-full font-mono text-sm"
          rows={7}
          spellCheck={false}
          value={line}
          placeholder={
            'curl https://api.example.org/people \\\n  -H "Authorization: Bearer KEY" \\\n  -d \'{"email": "someone@example.org", "first_name": "Some"}\''
          }
          onChange={(event) => setLine(event.target.value)}
        />
      </Field>
      <button className="btn btn-sm btn-primary self-start" disabled={read.isPending || line.trim() === ''}>
        Read it
      </button>
    </form>
  );
}
