import { useState } from 'react';
import type { Look } from '../../../../core/forms/index.ts';
import { useKeepTheme, useRemoveTheme, useThemes } from '../../../data/themes.ts';
import { Dialog } from '../../../parts/Dialog.tsx';
import { Labelled } from '../../../parts/Labelled.tsx';
import { NameForm } from '../../../parts/NameForm.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { LookFromSite } from './LookFromSite.tsx';

interface ThemePartProps {
  /** '' for none. */
  theme: string;
  look: Look;
  onChange: (part: { theme?: string; look?: Look }) => void;
}

/** Looks that forms share: takes one, makes one of this look, or reads one from a site. */
export function ThemePart({ theme, look, onChange }: ThemePartProps) {
  const themes = useThemes();
  const keep = useKeepTheme();
  const remove = useRemoveTheme();
  const [asking, setAsking] = useState<'name' | 'site' | null>(null);
  const chosen = themes.data?.find(({ id }) => id === theme);
  const differs = chosen && JSON.stringify(chosen.look) !== JSON.stringify(look);
  const others = (chosen?.forms.length ?? 0) - 1;
  return (
    <div className="flex flex-col gap-2 border-b border-base-300 pb-4">
      <Labelled label="Theme">
        <select
          className="select select-sm w-full"
          value={chosen ? theme : ''}
          onChange={({ target: { value } }) => {
            const next = themes.data?.find(({ id }) => id === value);
            onChange(next ? { theme: value, look: next.look } : { theme: '' });
          }}
        >
          <option value="">none: a look of its own</option>
          {themes.data?.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </Labelled>
      <div className="flex flex-wrap gap-2">
        {chosen && differs && (
          <>
            <button
              className="btn btn-xs btn-primary"
              disabled={keep.isPending}
              onClick={() => keep.mutate({ id: chosen.id, name: chosen.name, look })}
            >
              Change the theme so
            </button>
            <button className="btn btn-xs" onClick={() => onChange({ look: chosen.look })}>
              Back to the theme
            </button>
          </>
        )}
        <button className="btn btn-xs" onClick={() => setAsking('name')}>
          Make it a theme
        </button>
        <button className="btn btn-xs" onClick={() => setAsking('site')}>
          Take the look of a site
        </button>
        {chosen && (
          <button
            className="btn btn-xs btn-ghost"
            onClick={() => remove.mutate(chosen.id, { onSuccess: () => onChange({ theme: '' }) })}
          >
            Remove the theme
          </button>
        )}
      </div>
      {chosen && differs && (
        <p className="text-muted text-sm">
          This form differs from its theme.
          {others > 0 &&
            ` Changed, it changes ${others === 1 ? '1 more form' : `${others} more forms`}, once published.`}
        </p>
      )}
      <ActionError error={keep.error ?? remove.error} />
      <Dialog title="A theme of this look" open={asking === 'name'} onClose={() => setAsking(null)}>
        <NameForm
          label="Name"
          help="Forms that have the theme change with it, once they are published."
          action="Make it"
          busy={keep.isPending}
          error={keep.error}
          onCancel={() => setAsking(null)}
          onSubmit={(name) =>
            keep.mutate(
              { id: null, name, look },
              {
                onSuccess: ({ id }) => {
                  setAsking(null);
                  onChange({ theme: id });
                },
              },
            )
          }
        />
      </Dialog>
      <Dialog title="Take the look of a site" open={asking === 'site'} onClose={() => setAsking(null)}>
        <LookFromSite
          onTake={(found) => {
            setAsking(null);
            // Width, room and labels stay as they were chosen.
            const { colours, font, radius, size } = found;
            onChange({ look: { ...look, colours, font, radius, size } });
          }}
        />
      </Dialog>
    </div>
  );
}
