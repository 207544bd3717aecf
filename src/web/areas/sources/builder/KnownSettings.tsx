import { EndingsPart } from './EndingsPart.tsx';
import type { SettingsProps } from './settingsProps.ts';
import { FOR_THOSE } from './whenWords.ts';

/** What visitors see instead of the form of whom something is known. */
export function KnownSettings({ document, set, about, known, address }: SettingsProps & { address: string }) {
  return (
    <div className="flex flex-col gap-4">
      <p>
        Nobody is recognised by an address that is typed. A visitor is known by a personal link in a mail, or because
        the same browser sent a form before, where the site says that the visitor agreed to that being remembered.
      </p>
      <p className="text-muted text-sm">
        For personal links, a route maps “Sign for personal links” into a field of the system that writes to people; a
        link there ends in <span className="font-mono break-all">{address}?visitor=</span> and that field. It works
        behind the address of any page of yours as well, where our script is.
      </p>
      <p className="text-muted text-sm">
        What depends on who somebody is can also be a condition of a question or a page. What nobody knows of a visitor
        counts as not so.
      </p>
      <h3 className="font-semibold border-t border-base-300 pt-3">Instead of the form</h3>
      <p className="text-muted text-sm">Where the form comes over a page by itself, it stays away from them.</p>
      <EndingsPart
        word="Text"
        words={FOR_THOSE}
        endings={document.instead}
        askable={{ all: known, visit: [], known }}
        fields={[]}
        about={(pointer) => about(`/instead${pointer}`)}
        onChange={(instead) => set({ instead })}
      />
    </div>
  );
}
