import { useState } from 'react';
import { Link } from 'react-router';
import type { ProfileView } from '../../../contract/connection.ts';
import { moveInList } from '../../parts/keys.ts';

/** The kinds of service, found by name or by what they are for. */
export function ServiceChoice({ profiles }: { profiles: ProfileView[] }) {
  const [wanted, setWanted] = useState('');
  const found = profiles.filter((profile) => isMeant(profile, wanted));
  return (
    <div className="max-w-2xl flex flex-col gap-4" onKeyDown={moveInList}>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">What do you want to connect?</span>
        <input
          className="input w-full"
          type="search"
          value={wanted}
          placeholder="A name, or what it is for: mailing list, sheet, notification"
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      <ul className="flex flex-col">
        {found.map(({ id, name, purpose, cannot, isOwn }) => (
          <li key={id} className="border-t border-base-300 flex items-center justify-between gap-2">
            <Link data-row to={`/connections/new?service=${id}`} className="block flex-1 px-2 py-2 hover:bg-base-200">
              <span className="font-semibold">{name}</span> <span>· {purpose}</span>
              {isOwn && <span className="text-muted"> · your own profile</span>}
              {cannot.length > 0 && <span className="block text-muted text-sm">{cannot.join('; ')}</span>}
            </Link>
            {isOwn && (
              <Link className="btn btn-xs" to={`/connections/own?profile=${id}`}>
                Change
              </Link>
            )}
            <a
              className="btn btn-xs btn-ghost"
              href={`/api/profiles/${id}`}
              aria-label={`Export the profile of ${name}`}
            >
              Export
            </a>
          </li>
        ))}
        <li className="border-t border-b border-base-300">
          <Link data-row to="/connections/own" className="block px-2 py-2 hover:bg-base-200">
            <span className="font-semibold">A service that is not here</span>{' '}
            <span>· teach Iwashi how to talk to it</span>
            <span className="block text-muted text-sm">
              From its OpenAPI description, from one example request, or from a profile somebody gave you.
            </span>
          </Link>
        </li>
      </ul>
      {found.length === 0 && (
        <p role="status" className="text-muted">
          None of the services here is for “{wanted}”. You can still connect it, as one that is not here.
        </p>
      )}
    </div>
  );
}

function isMeant({ name, purpose, words }: ProfileView, wanted: string): boolean {
  const all = [name, purpose, ...words].join(' ').toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word.replace(/s$/, '')));
}
