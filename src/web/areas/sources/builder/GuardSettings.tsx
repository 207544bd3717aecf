import { Field } from '../../../parts/Field.tsx';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import type { SettingsProps } from './settingsProps.ts';

/** What keeps robots and strangers out. */
export function GuardSettings({ document, set, about }: SettingsProps) {
  return (
    <div className="flex flex-col gap-4">
      <Field
        label="Sites it may be on"
        help="One a line, such as https://example.org. Empty: any site."
        error={about('/origins')}
      >
        <LinesInput lines={document.origins} onChange={(origins) => set({ origins })} rows={2} />
      </Field>
      <Field
        label="Shortest time to fill it in, in seconds"
        help="Faster ones are set aside for you to look at. A field that only robots see is always in the form."
        error={about('/minimumSeconds')}
      >
        <input
          type="number"
          min={0}
          max={60}
          className="input w-28"
          value={document.minimumSeconds}
          onChange={(event) => set({ minimumSeconds: event.target.valueAsNumber || 0 })}
        />
      </Field>
    </div>
  );
}
