import { Trash2 } from 'lucide-react';
import type { ShapeView } from '../../../../contract/webhook.ts';
import { EVENT_ACTS, type EventAct, type EventKinds } from '../../../../core/intake/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { Time } from '../../../parts/Time.tsx';
import { PLACES } from './places.ts';

interface EventsPartProps {
  events: EventKinds;
  onChange: (events: EventKinds) => void;
  seen: ShapeView['kinds'];
  about: (pointer: string) => string | undefined;
}

const ACT_WORDS: Record<EventAct, string> = { take: 'take', ignore: 'ignore, and count' };

/** Which of several kinds of events at one address are taken. */
export function EventsPart({ events, onChange, seen, about }: EventsPartProps) {
  const { path, known, others } = events;
  const rows = [...known.map(({ kind }) => kind), ...seen.map(({ kind }) => kind)].filter(
    (kind, at, all) => all.indexOf(kind) === at,
  );
  const actOf = (kind: string) => known.find((one) => one.kind === kind)?.act;
  const say = (kind: string, act: EventAct) =>
    onChange({
      ...events,
      known: actOf(kind) ? known.map((one) => (one.kind === kind ? { kind, act } : one)) : [...known, { kind, act }],
    });
  return (
    <section aria-labelledby="events" className="flex flex-col gap-3">
      <h3 id="events" className="text-lg font-semibold">
        Kinds of events
      </h3>
      <Field
        label="Where the kind stands"
        help="A JSONPath, such as $.type. Empty: all that comes is of one kind. Routes tell kinds apart by a field from the same place."
        error={about('/events/path')}
      >
        <input
          className="input w-full font-mono max-w-md"
          value={path}
          spellCheck={false}
          placeholder="$.type"
          list={PLACES}
          onChange={({ target }) => onChange({ ...events, path: target.value.trim() })}
        />
      </Field>
      {path !== '' && (
        <>
          {rows.length > 0 && (
            <table className="rows w-full text-sm">
              <thead>
                <tr>
                  <th scope="col">Kind</th>
                  <th scope="col">Came</th>
                  <th scope="col">What becomes of it</th>
                  <th scope="col">
                    <span className="sr-only">Remove</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {rows.map((kind) => {
                  const came = seen.find((one) => one.kind === kind);
                  return (
                    <tr key={kind}>
                      <td className="font-mono break-all">{kind}</td>
                      <td>
                        {came ? (
                          <>
                            {came.came}, last <Time at={came.lastAt} />
                          </>
                        ) : (
                          'not yet'
                        )}
                      </td>
                      <td>
                        <select
                          className="select select-sm w-auto"
                          aria-label={`What becomes of ${kind}`}
                          value={actOf(kind) ?? ''}
                          onChange={({ target }) => say(kind, target.value as EventAct)}
                        >
                          {actOf(kind) === undefined && <option value="">as all others</option>}
                          {EVENT_ACTS.map((act) => (
                            <option key={act} value={act}>
                              {ACT_WORDS[act]}
                            </option>
                          ))}
                        </select>
                      </td>
                      <td className="text-right">
                        {actOf(kind) !== undefined && (
                          <button
                            type="button"
                            className="btn btn-xs btn-ghost btn-square"
                            aria-label={`Say nothing of ${kind}`}
                            onClick={() => onChange({ ...events, known: known.filter((one) => one.kind !== kind) })}
                          >
                            <Trash2 size={15} aria-hidden="true" />
                          </button>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )}
          <NewKind known={rows} onAdd={(kind) => say(kind, 'take')} />
          <Field label="All others" error={about('/events/others')}>
            <select
              className="select w-auto"
              value={others}
              onChange={({ target }) => onChange({ ...events, others: target.value as EventAct })}
            >
              {EVENT_ACTS.map((act) => (
                <option key={act} value={act}>
                  {ACT_WORDS[act]}
                </option>
              ))}
            </select>
          </Field>
        </>
      )}
    </section>
  );
}

/** A kind that has not come yet. */
function NewKind({ known, onAdd }: { known: string[]; onAdd: (kind: string) => void }) {
  return (
    <form
      className="flex flex-wrap gap-2 items-end"
      onSubmit={(event) => {
        event.preventDefault();
        const form = event.currentTarget;
        const typed = new FormData(form).get('kind');
        const kind = typeof typed === 'string' ? typed.trim() : '';
        if (kind === '' || known.includes(kind)) return;
        onAdd(kind);
        form.reset();
      }}
    >
      <label className="flex flex-col">
        <span className="text-muted text-sm">A kind that has not come yet</span>
        <input className="input input-sm font-mono" name="kind" spellCheck={false} maxLength={120} />
      </label>
      <button className="btn btn-sm">Add</button>
    </form>
  );
}
