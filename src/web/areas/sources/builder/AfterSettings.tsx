import { EndingFields } from './EndingFields.tsx';
import { EndingsPart } from './EndingsPart.tsx';
import { askableBefore } from './askable.ts';
import type { SettingsProps } from './settingsProps.ts';
import { FOR_THOSE } from './whenWords.ts';

/** What comes after the form was sent: for everybody, and for those who answered in a certain way. */
export function AfterSettings({ document, set, about, known }: SettingsProps) {
  return (
    <div className="flex flex-col gap-4">
      <EndingFields
        ending={document.ending}
        fields={document.fields}
        handsOut
        about={(part) => about(`/ending${part}`)}
        onChange={(part) => set({ ending: { ...document.ending, ...part } })}
      />
      <h3 className="font-semibold border-t border-base-300 pt-3">Other endings</h3>
      <p className="text-muted text-sm">
        What comes instead for those who answered in a certain way. Of several that hold, the first counts.
      </p>
      <EndingsPart
        word="Ending"
        words={FOR_THOSE}
        endings={document.endings}
        askable={askableBefore(document, null, known)}
        fields={document.fields}
        handsOut
        about={(pointer) => about(`/endings${pointer}`)}
        onChange={(endings) => set({ endings })}
      />
    </div>
  );
}
