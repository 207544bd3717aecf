import { useState } from 'react';
import { CircleCheck, CircleX } from 'lucide-react';
import type { CredentialInputs } from '../../../../contract/connection.ts';
import type { Profile } from '../../../../contract/profile/index.ts';
import type { TrialView } from '../../../../contract/profiles.ts';
import type { DestinationField, SentValue } from '../../../../core/mapping/index.ts';
import { ApiProblem } from '../../../data/api.ts';
import { ChoiceInput, DestinationInput } from '../../../parts/DestinationInput.tsx';
import { Exchange } from '../../../parts/Exchange.tsx';
import { Field } from '../../../parts/Field.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { capital } from '../../../parts/words.ts';
import { CredentialFields } from '../CredentialFields.tsx';
import { useTryOperation } from '../../../data/profiles.ts';

/** Tries the operations of a profile one by one, live, with the requests and answers in sight. */
export function OperationTrial({ profile }: { profile: Profile }) {
  const trial = useTryOperation();
  const [baseUrl, setBaseUrl] = useState(profile.baseUrl.preset ?? '');
  const [credentials, setCredentials] = useState<CredentialInputs>({});
  const [email, setEmail] = useState('');
  const [fields, setFields] = useState<Record<string, string>>({});
  const problem = trial.error instanceof ApiProblem ? trial.error : null;
  const [offers, setOffers] = useState<TrialView['offers']>(null);
  const [place, setPlace] = useState({ list: '', group: '', tag: '' });
  const fixed = profile.catalogue.fields && 'fixed' in profile.catalogue.fields ? profile.catalogue.fields.fixed : [];
  const own = offers?.fields ?? fixed;
  const attempt = (operation: string) =>
    trial.mutate(
      { document: profile, baseUrl, credentials, operation, email, fields: typed(own, fields), ...place },
      { onSuccess: (view) => view.offers && setOffers(view.offers) },
    );
  const needsPerson = (operation: string) => operation !== 'verify' && operation !== 'catalogue';
  const groups = offers?.lists.find(({ id }) => id === place.list)?.groups ?? [];
  const button = (operation: string, label: string, isThere = true) =>
    isThere && (
      <button
        className="btn btn-sm"
        disabled={trial.isPending || (needsPerson(operation) && email === '')}
        onClick={() => attempt(operation)}
      >
        {trial.isPending && trial.variables.operation === operation ? 'Trying' : label}
      </button>
    );
  const { outOfList, outOfGroup, untag } = profile.place ?? {};
  const canTakeOut = outOfList !== undefined || outOfGroup !== undefined || untag !== undefined;
  return (
    <section className="box p-4 flex flex-col gap-4" aria-label="Try it">
      <div>
        <h2 className="font-semibold text-lg">Try it</h2>
        <p className="text-muted">Each button sends real requests to the service. What you paste here is not kept.</p>
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        <Field label={profile.baseUrl.label} error={problem?.about('/baseUrl')}>
          <input
            className="input w-full font-mono"
            value={baseUrl}
            spellCheck={false}
            onChange={(event) => setBaseUrl(event.target.value)}
          />
        </Field>
        <CredentialFields
          credentials={profile.credentials}
          values={credentials}
          errorOf={() => undefined}
          onChange={setCredentials}
        />
        <Field label="A test address" help="For finding and writing. Use one of your own.">
          <input
            className="input w-full"
            type="email"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </Field>
        {own
          .filter(({ type }) => type !== 'email')
          .map((field) => (
            <DestinationInput
              key={field.key}
              field={field}
              label={field.required ? `${field.label} (required there)` : field.label}
              value={fields[field.key] ?? ''}
              onChange={(value) => setFields({ ...fields, [field.key]: value })}
            />
          ))}
        {offers && offers.lists.length > 0 && (
          <ChoiceInput
            label={capital(profile.calls?.list ?? 'list')}
            items={offers.lists}
            value={place.list}
            onChange={(list) => setPlace({ ...place, list, group: '' })}
          />
        )}
        {groups.length > 0 && (
          <ChoiceInput
            label={capital(profile.calls?.group ?? 'group')}
            items={groups}
            value={place.group}
            onChange={(group) => setPlace({ ...place, group })}
          />
        )}
        {offers && offers.tags.length > 0 && (
          <ChoiceInput
            label="Tag"
            items={offers.tags}
            value={place.tag}
            onChange={(tag) => setPlace({ ...place, tag })}
          />
        )}
      </div>
      <div className="flex flex-wrap gap-2">
        {button('verify', 'Who are we?', profile.verify !== undefined)}
        {button('catalogue', 'What does it offer?')}
        {button('find', 'Find the test address', profile.find !== undefined)}
        {button('write', 'Write the test address')}
        {button('take out', 'Take it out again', canTakeOut && (place.list !== '' || place.tag !== ''))}
        {button('unsubscribe', 'Unsubscribe it', profile.subscription?.unsubscribe !== undefined)}
        {button('remove', 'Delete it there', profile.remove !== undefined)}
      </div>
      <ActionError error={problem && problem.issues.length > 0 ? new Error(problem.issues[0]?.detail) : trial.error} />
      {trial.data && (
        <div role="status" className="flex flex-col gap-3">
          <p className="flex gap-2 items-start">
            {trial.data.ok ? (
              <CircleCheck size={18} className="text-success shrink-0 mt-0.5" aria-hidden="true" />
            ) : (
              <CircleX size={18} className="text-error shrink-0 mt-0.5" aria-hidden="true" />
            )}
            <span className="break-words min-w-0">{trial.data.outcome}</span>
          </p>
          {trial.data.exchanges.map((exchange, index) => (
            <Exchange key={index} exchange={exchange} />
          ))}
        </div>
      )}
    </section>
  );
}

/** What was typed, as the fields take it; those left empty are not sent. */
const typed = (own: DestinationField[], texts: Record<string, string>): Record<string, SentValue> =>
  Object.fromEntries(
    own.flatMap(({ key, type }): [string, SentValue][] => {
      const text = texts[key] ?? '';
      if (text === '') return [];
      if (type === 'yes/no') return [[key, text === 'yes']];
      return [[key, type === 'number' ? Number(text) : text]];
    }),
  );
