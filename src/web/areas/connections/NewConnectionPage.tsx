import { ArrowLeft } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { Loaded } from '../../parts/States.tsx';
import { NewConnectionForm } from './NewConnectionForm.tsx';
import { ServiceChoice } from './ServiceChoice.tsx';
import { useProfiles } from '../../data/connections.ts';

/** Adding a connection: first which service, then what lets us in. */
export function NewConnectionPage() {
  const profiles = useProfiles();
  const [params] = useSearchParams();
  const wanted = params.get('service');
  return (
    <div className="h-full overflow-auto p-6" tabIndex={0} role="region" aria-label="Add a connection">
      <Loaded query={profiles}>
        {(list) => {
          const profile = list.find(({ id }) => id === wanted);
          return (
            <>
              <Link to={profile ? '/connections/new' : '/connections'} className="btn btn-sm btn-ghost -ml-2 mb-2">
                <ArrowLeft size={15} aria-hidden="true" /> {profile ? 'Other services' : 'Connections'}
              </Link>
              <h1 className="text-xl font-semibold mb-1">{profile ? `Connect ${profile.name}` : 'Add a connection'}</h1>
              <p className="text-muted mb-5 max-w-xl">
                A connection is access to one account of one other system. Connect several accounts of a service one
                after the other, and name each for what it is.
              </p>
              {profile ? <NewConnectionForm key={profile.id} profile={profile} /> : <ServiceChoice profiles={list} />}
            </>
          );
        }}
      </Loaded>
    </div>
  );
}
