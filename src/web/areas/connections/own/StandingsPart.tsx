import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Profile } from '../../../../contract/profile/index.ts';
import { STANDINGS, type Standing } from '../../../../core/delivery/index.ts';

interface StandingsPartProps {
  profile: Profile;
  onChange: (profile: Profile) => void;
}

/** What the service's own words for a person's state mean; only where a found person has such a word. */
export function StandingsPart({ profile, onChange }: StandingsPartProps) {
  const [word, setWord] = useState('');
  const { subscription } = profile;
  const means = subscription?.means ?? {};
  if (profile.record.state === undefined && !subscription) return null;
  const change = (changed: Record<string, Standing>) =>
    onChange({ ...profile, subscription: { ...subscription, means: changed } });
  const add = () => {
    change({ ...means, [word.trim()]: 'subscribed' });
    setWord('');
  };
  return (
    <section className="flex flex-col gap-2 max-w-3xl" aria-label="States of people">
      <div>
        <h3 className="font-semibold">What its words for a person mean</h3>
        <p className="text-muted text-sm">So that you see who gets mail from there, and who left.</p>
      </div>
      <ul className="flex flex-col gap-2">
        {Object.entries(means).map(([own, standing]) => (
          <li key={own} className="grid gap-2 items-center grid-cols-[1fr_12rem_auto] max-w-xl">
            <code className="font-mono break-all">{own}</code>
            <select
              className="select select-sm w-full"
              aria-label={`${own} means`}
              value={standing}
              onChange={(event) => change({ ...means, [own]: event.target.value as Standing })}
            >
              {STANDINGS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
            <button
              className="btn btn-sm btn-ghost btn-square"
              aria-label={`Remove ${own}`}
              onClick={() => change(Object.fromEntries(Object.entries(means).filter(([other]) => other !== own)))}
            >
              <Trash2 size={14} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ul>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <input
          className="input input-sm w-48 font-mono"
          aria-label="Another word of the service"
          placeholder="its word"
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
        <button className="btn btn-sm" disabled={word.trim() === '' || word.trim() in means}>
          <Plus size={14} aria-hidden="true" /> Add a word
        </button>
      </form>
    </section>
  );
}
