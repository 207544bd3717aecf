import {
  ENTRANCES,
  POSITIONS,
  PRESENTATIONS,
  type Presentation,
  type Showing,
} from '../../../../core/showing/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { ZoneInput } from '../../../parts/ZoneInput.tsx';
import { Labelled } from '../../../parts/Labelled.tsx';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { DeviceBoxes } from '../DeviceBoxes.tsx';
import { Triggers } from '../Triggers.tsx';
import type { SettingsProps } from './settingsProps.ts';

const PRESENTATION_WORDS: Record<Presentation, string> = {
  inline: 'in the page, where there is a place for it',
  'pop-up': 'pop-up: over the page',
  bar: 'bar: along the edge of the window',
  corner: 'panel in a corner',
  page: 'over the whole window',
};

/** How and when the form comes before visitors, and from when to when it is open. */
export function ShowingSettings({ document, set, about }: SettingsProps) {
  const { presentation, showing, open } = document;
  const change = (part: Partial<Showing>) => set({ showing: { ...showing, ...part } });
  const isInline = presentation === 'inline';
  return (
    <div className="flex flex-col gap-4">
      <Field label="How it comes before visitors" help="The questions stay the same, whichever you take.">
        <select
          className="select w-full"
          value={presentation}
          onChange={({ target }) => set({ presentation: target.value as Presentation })}
        >
          {PRESENTATIONS.map((one) => (
            <option key={one} value={one}>
              {PRESENTATION_WORDS[one]}
            </option>
          ))}
        </select>
      </Field>
      {isInline ? (
        <>
          <Field
            label="Place it by itself"
            help="A CSS selector, such as article.story: it stands beside each such element, on the pages below. Empty: where you put it by hand."
            error={about('/showing/placeAt')}
          >
            <input
              className="input w-full font-mono"
              value={showing.placeAt}
              spellCheck={false}
              placeholder="none"
              onChange={({ target }) => change({ placeAt: target.value.trim() })}
            />
          </Field>
          {showing.placeAt !== '' && (
            <Labelled label="Where beside it">
              <select
                className="select select-sm w-full"
                value={showing.placeSide}
                onChange={({ target }) => change({ placeSide: target.value as Showing['placeSide'] })}
              >
                <option value="before">before it</option>
                <option value="after">after it</option>
              </select>
            </Labelled>
          )}
        </>
      ) : (
        <>
          <Triggers
            legend="What shows it"
            triggers={showing.triggers}
            onChange={(triggers) => change({ triggers })}
            error={about('/showing/triggers')}
          />
          <div className="grid grid-cols-2 gap-3">
            {(presentation === 'bar' || presentation === 'corner') && (
              <Labelled label="Where">
                <select
                  className="select select-sm w-full"
                  value={showing.position}
                  onChange={({ target }) => change({ position: target.value as Showing['position'] })}
                >
                  {POSITIONS.map((one) => (
                    <option key={one} value={one}>
                      at the {one}
                    </option>
                  ))}
                </select>
              </Labelled>
            )}
            <Labelled label="Entrance">
              <select
                className="select select-sm w-full"
                value={showing.entrance}
                onChange={({ target }) => change({ entrance: target.value as Showing['entrance'] })}
              >
                {ENTRANCES.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </select>
            </Labelled>
            <FigureInput
              label="Not again for, minutes"
              value={showing.againMinutes}
              onChange={(againMinutes) => change({ againMinutes })}
            />
            <FigureInput
              label="Days hidden after closing"
              value={showing.closedDays}
              onChange={(closedDays) => change({ closedDays })}
            />
            <FigureInput
              label="Priority, 0 to 100"
              value={showing.priority}
              onChange={(priority) => change({ priority })}
            />
          </div>
          <p className="text-muted text-sm">
            One at a time is shown. What was shown, closed and sent is remembered from page to page only where your site
            has that visitor remembered (under Place it); otherwise for as long as the page is open.
          </p>
        </>
      )}
      {(showing.placeAt !== '' || !isInline) && (
        <>
          <Field label="Pages" help="One a line, such as /blog/*. Empty: every page." error={about('/showing/pages')}>
            <LinesInput lines={showing.pages} onChange={(pages) => change({ pages })} rows={2} />
          </Field>
          <Field label="Not on" error={about('/showing/notPages')}>
            <LinesInput lines={showing.notPages} onChange={(notPages) => change({ notPages })} rows={2} />
          </Field>
          <details>
            <summary className="cursor-pointer font-semibold">For whom</summary>
            <div className="flex flex-col gap-3 pt-2">
              {!isInline && (
                <DeviceBoxes legend="On" devices={showing.devices} onChange={(devices) => change({ devices })} />
              )}
              <Labelled label="Visitors">
                <select
                  className="select select-sm w-full"
                  value={showing.visitors}
                  onChange={({ target }) => change({ visitors: target.value as Showing['visitors'] })}
                >
                  <option value="all">all</option>
                  <option value="new">new ones, as far as they may be known</option>
                  <option value="returning">those who come again, as far as they may be known</option>
                </select>
              </Labelled>
              <Field label="Who came from" help="Hosts, one a line, such as search.example. Empty: from anywhere.">
                <LinesInput lines={showing.referrers} onChange={(referrers) => change({ referrers })} rows={2} />
              </Field>
              <Field label="Whose campaign is" help="As utm_campaign says it, one a line. Empty: any or none.">
                <LinesInput lines={showing.campaigns} onChange={(campaigns) => change({ campaigns })} rows={2} />
              </Field>
              <TickBox
                label="not any more once it was sent"
                checked={showing.notAfterSent}
                onChange={(notAfterSent) => change({ notAfterSent })}
              />
            </div>
          </details>
        </>
      )}
      <h3 className="font-semibold border-t border-base-300 pt-3">Open from and to</h3>
      <div className="grid grid-cols-2 gap-3">
        {(['from', 'to'] as const).map((end) => (
          <Labelled key={end} label={end === 'from' ? 'From (empty: already)' : 'To (empty: for ever)'}>
            <input
              type="datetime-local"
              className="input input-sm w-full"
              value={open[end]}
              onChange={({ target }) => set({ open: { ...open, [end]: target.value } })}
            />
          </Labelled>
        ))}
      </div>
      <Field label="Time zone" error={about('/open')}>
        <ZoneInput zone={open.zone} onChange={(zone) => set({ open: { ...open, zone } })} />
      </Field>
      <Field label="What is said while it is closed" help="Empty: our own words." error={about('/closedText')}>
        <textarea
          className="textarea w-full"
          rows={2}
          value={document.closedText}
          onChange={({ target }) => set({ closedText: target.value })}
        />
      </Field>
    </div>
  );
}
