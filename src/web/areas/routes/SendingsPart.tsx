import { useState } from 'react';
import type { RouteView } from '../../../contract/route.ts';
import type { SendingPreview, SendingView } from '../../../contract/sendings.ts';
import { useSending, useSendingPreview, useSendings } from '../../data/routes.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';
import { useNow } from '../../parts/useNow.ts';

const DAY_MS = 86_400_000;
const dayOf = (at: number): string => new Date(at).toISOString().slice(0, 10);

/** Sends what was received before through the route, as it is live: looked at first, then at a set pace. */
export function SendingsPart({ route }: { route: RouteView }) {
  const now = useNow();
  const [since, setSince] = useState(() => dayOf(now - 30 * DAY_MS));
  const [until, setUntil] = useState(() => dayOf(now));
  const [perMinute, setPerMinute] = useState('60');
  const preview = useSendingPreview(route.id);
  const { start, steer } = useSending(route.id);
  const sendings = useSendings(route.id);
  // A day belongs to the period whole.
  const period = {
    since: `${since}T00:00:00Z`,
    until: new Date(Date.parse(`${until}T00:00:00Z`) + DAY_MS).toISOString(),
  };
  const isWhole = since !== '' && until !== '';
  const change = (set: (value: string) => void) => (event: { target: { value: string } }) => {
    set(event.target.value);
    preview.reset();
  };
  return (
    <section className="flex flex-col gap-4">
      <h3 className="text-lg font-semibold">Send what is there</h3>
      {route.state !== 'live' ? (
        <p>Publish the route first: a draft sends nothing.</p>
      ) : (
        <>
          <p>
            What was received before goes through the route as it is live. What it has sent already is not sent again,
            and nobody is asked to confirm twice. Days are whole, in UTC.
          </p>
          <div className="flex flex-wrap gap-3 items-end">
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
            <Field label="At most a minute">
              <input
                type="number"
                className="input input-sm w-24"
                min={1}
                max={6000}
                value={perMinute}
                onChange={(event) => setPerMinute(event.target.value)}
              />
            </Field>
            <button
              className="btn btn-sm"
              disabled={preview.isPending || !isWhole}
              onClick={() => preview.mutate(period)}
            >
              {preview.isPending ? 'Looking' : 'See what would happen'}
            </button>
          </div>
          <ActionError error={preview.error} />
          {preview.data && (
            <div className="flex flex-wrap items-center gap-3" aria-live="polite">
              <p>{previewInWords(preview.data)}</p>
              {isWorthIt(preview.data) && (
                <button
                  className="btn btn-sm btn-primary"
                  disabled={start.isPending || Number(perMinute) < 1}
                  onClick={() =>
                    start.mutate({ ...period, perMinute: Number(perMinute) }, { onSuccess: () => preview.reset() })
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
              <Sending key={sending.id} sending={sending} onSteer={(act) => steer.mutate({ id: sending.id, act })} />
            ))}
          </ul>
        )}
      </Loaded>
    </section>
  );
}

/** Whether anything would go out, as far as it was looked. */
const isWorthIt = ({ total, looked, sent, held, asked }: SendingPreview): boolean =>
  sent + held + asked > 0 || looked < total;

function previewInWords({ total, looked, ...counts }: SendingPreview): string {
  if (total === 0) return 'Nothing was received in that period.';
  const of =
    looked < total
      ? `Of the first ${looked.toLocaleString()} of ${total.toLocaleString()}`
      : `Of ${total.toLocaleString()}`;
  return `${of}: ${countsInWords(counts)}.`;
}

function countsInWords({
  sent,
  held,
  asked,
  leftOut,
}: Pick<SendingView, 'sent' | 'held' | 'asked' | 'leftOut'>): string {
  const counts: [count: number, words: string][] = [
    [sent, 'sent'],
    [held, 'held'],
    [asked, 'waiting for a confirmation'],
    [leftOut, 'not sent: sent before, not for them, or asked before'],
  ];
  const said = counts.filter(([count]) => count > 0).map(([count, words]) => `${count.toLocaleString()} ${words}`);
  return said.join(', ') || 'nothing yet';
}

const STATES: Record<SendingView['state'], string> = {
  running: 'under way',
  paused: 'paused',
  done: 'done',
  cancelled: 'cancelled',
};

function Sending({
  sending,
  onSteer,
}: {
  sending: SendingView;
  onSteer: (act: 'pause' | 'resume' | 'cancel') => void;
}) {
  const { state, total, done, perMinute, startedAt, by } = sending;
  return (
    <li className="box p-3 flex flex-col gap-1">
      <div className="flex flex-wrap items-center gap-3">
        <strong>{STATES[state]}</strong>
        <progress
          className="progress progress-primary w-40"
          value={done}
          max={Math.max(total, done, 1)}
          aria-label="How far it has come"
        />
        <span>
          {done.toLocaleString()} of {total.toLocaleString()}
        </span>
        <span className="text-quiet">
          {perMinute.toLocaleString()} a minute, begun <Time at={startedAt} /> by {by}
        </span>
        <span className="ml-auto flex gap-1">
          {state === 'running' && (
            <button className="btn btn-xs" onClick={() => onSteer('pause')}>
              Pause
            </button>
          )}
          {state === 'paused' && (
            <button className="btn btn-xs" onClick={() => onSteer('resume')}>
              Resume
            </button>
          )}
          {(state === 'running' || state === 'paused') && (
            <button className="btn btn-xs" onClick={() => onSteer('cancel')}>
              Cancel it
            </button>
          )}
        </span>
      </div>
      <p className="text-quiet">{countsInWords(sending)}</p>
    </li>
  );
}
