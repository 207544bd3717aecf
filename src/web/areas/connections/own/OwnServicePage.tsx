import { ArrowLeft } from 'lucide-react';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import type { Profile } from '../../../../contract/profile/index.ts';
import { Failed } from '../../../parts/States.tsx';
import { FromCurl } from './FromCurl.tsx';
import { FromFile } from './FromFile.tsx';
import { FromOpenApi } from './FromOpenApi.tsx';
import { ProfileEditor } from './ProfileEditor.tsx';
import { useProfile } from '../../../data/profiles.ts';

const WAYS = [
  ['openapi', 'From its OpenAPI description'],
  ['curl', 'From one example request'],
  ['file', 'From a profile'],
] as const;

/** Teaching Iwashi a service that it does not know: where the profile comes from, then trying it, then saving it. */
export function OwnServicePage() {
  const [params] = useSearchParams();
  const way = params.get('from') ?? 'openapi';
  const saved = useProfile(params.get('profile') ?? '');
  const [made, setMade] = useState<{ way: string; profile: Profile } | null>(null);
  const profile = made?.way === way ? made.profile : (saved.data ?? null);
  const take = (next: Profile) => setMade({ way, profile: next });
  return (
    <div className="h-full overflow-auto p-6" tabIndex={0} role="region" aria-label="A service that is not here">
      <Link to="/connections/new" className="btn btn-sm btn-ghost -ml-2 mb-2">
        <ArrowLeft size={15} aria-hidden="true" /> Services
      </Link>
      <h1 className="text-xl font-semibold mb-1">
        {saved.data ? `Change the profile of ${saved.data.name}` : 'Connect a service that is not here'}
      </h1>
      <p className="text-muted mb-5 max-w-2xl">
        A connector profile says how to talk to a kind of service. Make one here, try it with real credentials, and save
        it; then connect as many accounts as you have. Credentials are never part of a profile.
      </p>
      {saved.isError && <Failed error={saved.error} />}
      {!params.get('profile') && (
        <>
          <nav aria-label="Where the profile comes from" className="flex flex-wrap gap-2 mb-5">
            {WAYS.map(([name, label]) => (
              <Link
                key={name}
                to={`?from=${name}`}
                aria-current={way === name ? 'page' : undefined}
                className={`btn btn-sm ${way === name ? 'btn-primary' : ''}`}
              >
                {label}
              </Link>
            ))}
          </nav>
          {way === 'openapi' && <FromOpenApi onProfile={take} />}
          {way === 'curl' && <FromCurl onProfile={take} />}
          {way === 'file' && <FromFile onProfile={take} />}
        </>
      )}
      {profile && (
        <ProfileEditor
          key={way + profile.id}
          profile={profile}
          isSaved={saved.data?.id === profile.id}
          onChange={take}
        />
      )}
    </div>
  );
}
