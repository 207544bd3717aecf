import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Profile } from '../../../../contract/profile/index.ts';
import { ApiProblem } from '../../../data/api.ts';
import { Field } from '../../../parts/Field.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { AuthenticationPart } from './AuthenticationPart.tsx';
import { MannersPart } from './MannersPart.tsx';
import { OperationTrial } from './OperationTrial.tsx';
import { StandingsPart } from './StandingsPart.tsx';
import { useSaveProfile } from '../../../data/profiles.ts';

/** A profile that is being made: its name, whether it works, the document itself, and saving it. */
export function ProfileEditor({
  profile,
  isSaved,
  onChange,
}: {
  profile: Profile;
  /** Whether it is a saved one that was opened to be changed. */
  isSaved: boolean;
  onChange: (profile: Profile) => void;
}) {
  const save = useSaveProfile();
  const navigate = useNavigate();
  const saveAs = (document: Profile, replace: boolean) =>
    save.mutate({ document, replace }, { onSuccess: ({ id }) => void navigate(`/connections/new?service=${id}`) });
  const problem = save.error instanceof ApiProblem ? save.error : null;
  return (
    <div className="flex flex-col gap-6 max-w-5xl">
      <section className="grid gap-3 sm:grid-cols-2 max-w-3xl">
        <Field label="Name of the service" error={problem?.about('/document/name')}>
          <input
            className="input w-full"
            value={profile.name}
            onChange={(event) => onChange({ ...profile, name: event.target.value })}
          />
        </Field>
        <Field label="What it is for" error={problem?.about('/document/purpose')}>
          <input
            className="input w-full"
            value={profile.purpose}
            onChange={(event) => onChange({ ...profile, purpose: event.target.value })}
          />
        </Field>
      </section>
      <AuthenticationPart profile={profile} onChange={onChange} />
      <OperationTrial profile={profile} />
      <StandingsPart profile={profile} onChange={onChange} />
      <MannersPart profile={profile} onChange={onChange} />
      <DocumentEditor key={JSON.stringify(profile)} profile={profile} onChange={onChange} />
      {problem?.type === '/problems/there-already' ? (
        <div className="alert alert-warning flex-col items-start" role="alert">
          <p>
            {problem.message} Nothing was saved yet. Replacing it changes how {profile.name} is spoken to from now on.
          </p>
          <div className="flex flex-wrap gap-2">
            <button className="btn btn-sm" onClick={() => saveAs(anotherKind(profile), false)}>
              Save as another kind of service
            </button>
            <button className="btn btn-sm" onClick={() => saveAs(profile, true)}>
              Replace the profile
            </button>
          </div>
        </div>
      ) : (
        <ActionError error={save.error} />
      )}
      {problem?.issues.map(({ pointer, detail }) => (
        <p key={pointer + detail} className="text-error">
          <code className="font-mono">{pointer.replace('/document', '') || 'the whole'}</code> {detail}
        </p>
      ))}
      <button className="btn btn-primary self-start" disabled={save.isPending} onClick={() => saveAs(profile, isSaved)}>
        Save the profile, and connect
      </button>
    </div>
  );
}

/** The document itself, for those who know what they want. */
function DocumentEditor({ profile, onChange }: { profile: Profile; onChange: (profile: Profile) => void }) {
  const [text, setText] = useState(() => JSON.stringify(profile, null, 2));
  const [trouble, setTrouble] = useState('');
  const take = () => {
    try {
      onChange(JSON.parse(text) as Profile);
      setTrouble('');
    } catch {
      setTrouble('This is not JSON: look for a missing comma or quotation mark.');
    }
  };
  return (
    <details className="box">
      <summary className="px-3 py-2 cursor-pointer">The profile itself, as a document</summary>
      <div className="p-3 flex flex-col gap-2">
        <Field label="Profile" error={trouble || undefined}>
          <textarea
            className="textarea w-full font-mono text-xs"
            rows={24}
            spellCheck={false}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </Field>
        <button className="btn btn-sm self-start" onClick={take}>
          Take the changes
        </button>
      </div>
    </details>
  );
}

/** The same under an id and a name of its own. */
function anotherKind(profile: Profile): Profile {
  const mark = Math.random().toString(36).slice(2, 6);
  return { ...profile, id: `${profile.id.slice(0, 50)}-${mark}`, name: `${profile.name.slice(0, 50)} (${mark})` };
}
