import { useState, type SubmitEvent } from 'react';
import type { Profile } from '../../../../contract/profile/index.ts';
import type { DescriptionView, OperationChoice } from '../../../../contract/profiles.ts';
import { ApiProblem } from '../../../data/api.ts';
import { Field } from '../../../parts/Field.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { useReadDescription } from '../../../data/profiles.ts';

type Role = [keyof OperationChoice, string, string];

const ROLES: { about: string; help: string; roles: Role[] }[] = [
  {
    about: 'What there is',
    help: '',
    roles: [
      ['verify', 'Says who we are', 'Asked to verify a connection.'],
      ['lists', 'Gives the lists', ''],
      ['groups', 'Gives the groups of a list', ''],
      ['tags', 'Gives the tags', ''],
      ['fields', 'Gives the fields', ''],
    ],
  },
  {
    about: 'People',
    help: '',
    roles: [
      ['find', 'Finds a person by address', 'Without it, nothing can be read back.'],
      ['upsert', 'Makes or changes a person, in one', 'Where the service has such a thing, choose it.'],
      ['make', 'Makes a person', 'Only where nothing does both.'],
      ['change', 'Changes a person', 'Only where nothing does both.'],
      ['remove', 'Deletes a person', 'Used only to clean up after a trial.'],
    ],
  },
  {
    about: 'Where people are',
    help: 'Putting in is needed only where writing a person does not do it too.',
    roles: [
      ['intoList', 'Puts a person into a list', ''],
      ['outOfList', 'Takes a person out of a list', ''],
      ['intoGroup', 'Puts a person into a group', ''],
      ['outOfGroup', 'Takes a person out of a group', ''],
      ['tag', 'Puts a tag on a person', ''],
      ['untag', 'Takes a tag off a person', ''],
      ['unsubscribe', 'Unsubscribes a person', ''],
      ['subscribe', 'Takes back a person who left', ''],
    ],
  },
  {
    about: 'Making what is missing there',
    help: 'Then it can be made from here.',
    roles: [
      ['makeList', 'Makes a list', ''],
      ['makeGroup', 'Makes a group', ''],
      ['makeTag', 'Makes a tag', ''],
      ['makeField', 'Makes a field', ''],
    ],
  },
];

/** Reads an OpenAPI description, and lets a person choose which operation does what. */
export function FromOpenApi({ onProfile }: { onProfile: (profile: Profile) => void }) {
  const read = useReadDescription();
  const [url, setUrl] = useState('');
  const [text, setText] = useState('');
  const problem = read.error instanceof ApiProblem ? read.error : null;
  const ask = (choice: OperationChoice | null) =>
    read.mutate({ url: text === '' ? url : '', text, choice }, { onSuccess: ({ profile }) => onProfile(profile) });
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    ask(null);
  };
  return (
    <div className="max-w-3xl flex flex-col gap-5 mb-6">
      <form onSubmit={submit} className="flex flex-col gap-3" noValidate>
        <Field
          label="Address of the description"
          help="Look for “OpenAPI” in the service's documentation for developers; it often ends in openapi.json or openapi.yaml."
          error={problem?.about('/url')}
        >
          <input
            className="input w-full font-mono"
            value={url}
            spellCheck={false}
            onChange={(event) => setUrl(event.target.value)}
          />
        </Field>
        <Field
          label="Or the file itself"
          error={problem?.about('/text')}
          help={text === '' ? '' : `${text.length} characters read.`}
        >
          <input
            type="file"
            className="file-input file-input-sm w-full"
            accept=".json,.yaml,.yml,application/json"
            onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
          />
        </Field>
        <ActionError error={problem && problem.issues.length > 0 ? null : read.error} />
        <button className="btn btn-sm btn-primary self-start" disabled={read.isPending || (url === '' && text === '')}>
          {read.isPending ? 'Reading' : 'Read it'}
        </button>
      </form>
      {read.data && <Choices description={read.data} onChoose={ask} />}
    </div>
  );
}

function Choices({
  description: { title, operations, choice },
  onChoose,
}: {
  description: DescriptionView;
  onChoose: (choice: OperationChoice) => void;
}) {
  return (
    <section>
      <h2 className="font-semibold text-lg">
        {title}: {operations.length} operations
      </h2>
      <p className="text-muted mb-2">
        Iwashi guessed which request does what. Change what is wrong, and leave empty what the service does not offer.
      </p>
      <div className="flex flex-col gap-5">
        {ROLES.map(({ about, help, roles }) => (
          <fieldset key={about} className="box px-4 pb-4">
            <legend className="px-1 text-muted">{about}</legend>
            {help && <p className="text-muted text-sm">{help}</p>}
            <div className="grid gap-3 sm:grid-cols-2 mt-1">
              {roles.map(([role, label, hint]) => (
                <Field key={role} label={label} help={hint}>
                  <select
                    className="select select-sm w-full"
                    value={choice[role]}
                    onChange={(event) => onChoose({ ...choice, [role]: event.target.value })}
                  >
                    <option value="">none</option>
                    {operations.map(({ id, method, path, summary }) => (
                      <option key={id} value={id}>
                        {`${method} ${path}${summary ? `: ${summary}` : ''}`}
                      </option>
                    ))}
                  </select>
                </Field>
              ))}
            </div>
          </fieldset>
        ))}
      </div>
    </section>
  );
}
