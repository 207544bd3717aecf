import { useState } from 'react';
import type { Profile } from '../../../../contract/profile/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { useCheckProfile } from '../../../data/profiles.ts';

/** Takes a profile that somebody exported. */
export function FromFile({ onProfile }: { onProfile: (profile: Profile) => void }) {
  const check = useCheckProfile();
  const [trouble, setTrouble] = useState('');
  const read = async (file: File | undefined) => {
    if (!file) return;
    setTrouble('');
    let document: unknown;
    try {
      document = JSON.parse(await file.text());
    } catch {
      setTrouble('This file is not JSON.');
      return;
    }
    const checked = await check.mutateAsync(document).catch(() => null);
    if (checked?.ok) onProfile(checked.profile);
    else
      setTrouble(
        checked
          ? `This is no profile: ${checked.issues
              .map(({ pointer, detail }) => `${pointer || 'the whole'} ${detail}`)
              .slice(0, 3)
              .join('; ')}`
          : 'It could not be read. Please try again.',
      );
  };
  return (
    <div className="max-w-3xl mb-6">
      <Field label="Profile" help="A .json file, as Export makes it." error={trouble || undefined}>
        <input
          type="file"
          className="file-input file-input-sm w-full"
          accept=".json,application/json"
          onChange={(event) => void read(event.target.files?.[0])}
        />
      </Field>
    </div>
  );
}
