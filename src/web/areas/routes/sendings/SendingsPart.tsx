import { isoDay } from '../../../../core/isoTime.ts';
import { figure } from '../../../parts/figures.ts';
import { useState } from 'react';
import type { RouteView } from '../../../../contract/route.ts';
import { SENDING_PILES, type SendingPile, type SendingPreview } from '../../../../contract/sendings.ts';
import type { Condition } from '../../../../core/conditions/index.ts';
import type { FieldValues, SourceField } from '../../../../core/values/index.ts';
import { useSending, useSendingPreview, useSendings } from '../../../data/routes.ts';
import { Field } from '../../../parts/Field.tsx';
import { ActionError, Loaded } from '../../../parts/States.tsx';
import { useNow } from '../../../parts/useNow.ts';
import { ConditionPart } from '../../../parts/conditions/ConditionPart.tsx';
import { countsInWords } from './countsInWords.ts';
import { Sending } from './Sending.tsx';

const DAY_MS = 86_400_000;

interface SendingsPartProps {
  route: RouteView;
  fields: SourceField[];
  /** Of the sample, with what is known of the person. */
  values: FieldValues;
}

/** What is taken of what is there. */
const PILES: Record<SendingPile, string> = {
  all: 'everything received',
  held: 'what this route holds',
};

/** Sends what was received before through the route, as it is live: looked at first, then at a set pace. */
export function SendingsPart({ route, fields, values }: SendingsPartProps) {
  const now = useNow();
  const [since, setSince] = useState(() => isoDay(now - 30 * DAY_MS));
  const [until, setUntil] = useState(() => isoDay(now));
  const [perMinute, setPerMinute] = useState('60');
  const [pile, setPile] = useState<SendingPile>('all');
  const [when, setWhen] = useState<Condition | null>(null);
  const preview = useSendingPreview(route.id);
  const { start, steer } = useSending(route.id);
  const sendings = useSendings(route.id);
  // A day belongs to the period whole.
  const chosen = () => ({
    since: `${since}T00:00:00Z`,
    until: new Date(Date.parse(`${until}T00:00:00Z`) + DAY_MS).toISOString(),
    pile,
    when,
  });
  const isWhole = since !== '' && until !== '';
  const change = (set: (value: string) => void) => (event: { target: { value: string } }) => {
    set(event.target.value);
    preview.reset();
  };
  return (
    <section className="flex flex-col gap-4">
      <h3 className="text-lg font-semibold">Send existing submissions</h3>
      {route.state !== 'live' ? (
        <p>Publish the route first: a draft sends nothing.</p>
      ) : (
        <>
          <p>
            {pile === 'all'
              ? 'What was received before goes through the route as it is live. What it has sent already is not sent again, and nobody is asked to confirm twice.'
              : 'What is held goes out with what the route, as it is live now, makes of it. What would be held again stays as it is.'}{' '}
            Days are whole, in UTC.
          </p>
          <div className="flex flex-wrap gap-3 items-end">
            <Field label="What is sent">
              <select
                className="select select-sm w-auto"
                value={pile}
                onChange={(event) => {
                  setPile(event.target.value === 'held' ? 'held' : 'all');
                  preview.reset();
                }}
              >
                {SENDING_PILES.map((one) => (
                  <option key={one} value={one}>
                    {PILES[one]}
                  </option>
                ))}
              </select>
            </Field>
            <Field label="Received from">
              <input
                type="date"
                className="input input-sm w-40"
                value={since}
                max={until}
                onChange={change(setSince)}
              />
            </Field>
            <Field label="To">
              <input
                type="date"
                className="input input-sm w-40"
                value={until}
                min={since}
                onChange={change(setUntil)}
              />
            </Field>
            <Field label="Maximum per minute">
              <input
                type="number"
                className="input input-sm w-24"
                min={1}
                max={6000}
                value={perMinute}
                onChange={(event) => setPerMinute(event.target.value)}
              />
            </Field>
          </div>
          <ConditionPart
            when={when}
            fields={fields}
            values={values}
            words={{ who: 'Of', holds: 'it is among them' }}
            onChange={(next) => {
              setWhen(next);
              preview.reset();
            }}
          />
          <div>
            <button
              className="btn btn-sm"
              disabled={preview.isPending || !isWhole}
              onClick={() => preview.mutate(chosen())}
            >
              {preview.isPending ? 'Looking' : 'See what would happen'}
            </button>
          </div>
          <ActionError error={preview.error} />
          {preview.data && (
            <div className="flex flex-wrap items-center gap-3" aria-live="polite">
              <p>{previewInWords(preview.data, pile)}</p>
              {isWorthIt(preview.data, pile) && (
                <button
                  className="btn btn-sm btn-primary"
                  disabled={start.isPending || Number(perMinute) < 1}
                  onClick={() =>
                    start.mutate({ ...chosen(), perMinute: Number(perMinute) }, { onSuccess: () => preview.reset() })
                  }
                >
                  Send them
                </button>
              )}
            </div>
          )}
          <ActionError error={start.error} />
        </>
      )}
      <ActionError error={steer.error} />
      <Loaded query={sendings}>
        {(list) => (
          <ul className="flex flex-col gap-3">
            {list.map((sending) => (
              <Sending
                key={sending.id}
                sending={sending}
                fields={fields}
                onSteer={(act) => steer.mutate({ id: sending.id, act })}
              />
            ))}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

/** Whether anything would go out, as far as it was looked. */
const isWorthIt = ({ total, looked, sent, held, asked, waiting }: SendingPreview, pile: SendingPile): boolean =>
  // What is held and would be held again is no work.
  sent + asked + waiting + (pile === 'held' ? 0 : held) > 0 || looked < total;

function previewInWords({ total, looked, ...counts }: SendingPreview, pile: SendingPile): string {
  if (total === 0)
    return pile === 'held' ? 'Nothing of that period is held by this route.' : 'Nothing was received in that period.';
  const of = looked < total ? `Of the first ${figure(looked)} of ${figure(total)}` : `Of ${figure(total)}`;
  return `${of}: ${countsInWords(counts)}.`;
}
