import { Link } from 'react-router';
import { useSetAside } from '../../../data/sources.ts';
import { Field } from '../../../parts/Field.tsx';
import { figure } from '../../../parts/figures.ts';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { SUSPICIONS } from '../../../parts/suspicions.ts';
import { TickBox } from '../../../parts/TickBox.tsx';
import type { SettingsProps } from './settingsProps.ts';

/** What keeps robots and strangers out, and what it kept out. */
export function GuardSettings({ sourceId, document, set, about }: SettingsProps & { sourceId: string }) {
  const { guards } = document;
  const guard = (part: Partial<typeof guards>) => set({ guards: { ...guards, ...part } });
  return (
    <div className="flex flex-col gap-4">
      <KeptOut sourceId={sourceId} />
      <Field
        label="Sites it may be on"
        help="One a line, such as https://example.org. Empty: any site."
        error={about('/origins')}
      >
        <LinesInput lines={document.origins} onChange={(origins) => set({ origins })} rows={2} />
      </Field>
      <h3 className="font-semibold border-t border-base-300 pt-3">What is set aside</h3>
      <p className="text-muted text-sm">
        Nothing is thrown away: it waits in Activity, where you release it. A field that only robots see is always in
        the form.
      </p>
      <Field
        label="Sent within so many seconds"
        help="Where our script is on the page, the browser can work for a second to show that it is no robot."
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
      <Field
        label="With any of these words"
        help="One a line; capitals and accents do not matter."
        error={about('/guards/words')}
      >
        <LinesInput lines={guards.words} onChange={(words) => guard({ words })} rows={3} />
      </Field>
      <Field label="With more links than" help="Empty: any number." error={about('/guards/mostLinks')}>
        <input
          type="number"
          min={0}
          max={100}
          className="input w-28"
          value={guards.mostLinks ?? ''}
          onChange={({ target }) =>
            guard({ mostLinks: Number.isNaN(target.valueAsNumber) ? null : Math.round(target.valueAsNumber) })
          }
        />
      </Field>
      <TickBox
        label="Disposable email addresses"
        checked={guards.throwAway}
        onChange={(throwAway) => guard({ throwAway })}
      />
    </div>
  );
}

function KeptOut({ sourceId }: { sourceId: string }) {
  const { data } = useSetAside(sourceId);
  if (!data) return null;
  const some = data.counts.filter(({ count }) => count > 0);
  const sum = some.reduce((all, { count }) => all + count, 0);
  return (
    <section aria-label="What was set aside this month">
      {sum === 0 ? (
        <p className="text-muted">Nothing was set aside this month.</p>
      ) : (
        <>
          <p>
            <Link className="plain-link" to={`/activity?source=${sourceId}&progress=set+aside`}>
              {figure(sum)} set aside this month
            </Link>
          </p>
          <ul className="text-sm text-muted">
            {some.map(({ why, count }) => (
              <li key={why}>
                {figure(count)}: {SUSPICIONS[why]}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}
