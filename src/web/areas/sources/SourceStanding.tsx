import { useState } from 'react';
import type { SourceView } from '../../../contract/source.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import { useEntryFate } from '../../data/entries.ts';
import { useSchedule } from '../../data/sources.ts';
import { ActionError } from '../../parts/States.tsx';
import { ExactTime } from '../../parts/Time.tsx';
import type { Draft } from '../../parts/useDraft.ts';

/** What of a source is not as usual: it is archived, or goes live by itself. */
export function Standing({ source: { id, archivedAt, goesLive, keptBack } }: { source: SourceView }) {
  const fate = useEntryFate('sources', id);
  const schedule = useSchedule(id);
  const undo = (label: string, onClick: () => void) => (
    <button className="btn btn-xs" disabled={fate.isPending || schedule.isPending} onClick={onClick}>
      {label}
    </button>
  );
  if (archivedAt === null && goesLive === null) return null;
  return (
    <div role="status" className="px-4 py-2 bg-base-200 border-b border-base-300 flex flex-wrap items-center gap-3">
      {archivedAt !== null ? (
        <>
          <span>
            Archived <ExactTime at={archivedAt} />: it accepts nothing and is shown on no page. Its submissions stay.
          </span>
          {undo('Take it out again', () => fate.mutate('restore'))}
        </>
      ) : (
        goesLive && (
          <>
            {keptBack.length > 0 ? (
              <span className="text-error">
                It was to go live <ExactTime at={goesLive.at} />, and will as soon as this is mended:{' '}
                {keptBack.join(' ')}
              </span>
            ) : (
              <span>
                The draft goes live by itself <ExactTime at={goesLive.at} />, as it is then. {goesLive.by} set this.
              </span>
            )}
            {undo('Not by itself', () => schedule.mutate(null))}
          </>
        )
      )}
      <ActionError error={fate.error ?? schedule.error} />
    </div>
  );
}

/** When the draft goes live by itself. */
export function GoesLive({ source: { id, archivedAt }, draft }: { source: SourceView; draft: Draft<MadeDocument> }) {
  const schedule = useSchedule(id);
  const [when, setWhen] = useState('');
  if (archivedAt !== null) return null;
  const submit = async () => {
    if (await draft.flush()) schedule.mutate(Date.parse(when), { onSuccess: () => setWhen('') });
  };
  return (
    <section aria-labelledby="goes-live" className="px-5 py-3">
      <h3 id="goes-live" className="text-lg font-semibold">
        When it goes live
      </h3>
      <form
        className="flex flex-wrap items-end gap-2 mt-2"
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <label className="flex flex-col">
          <span className="text-muted text-sm">Let the draft go live at</span>
          <input
            type="datetime-local"
            required
            className="input input-sm w-56"
            value={when}
            onChange={({ target }) => setWhen(target.value)}
          />
        </label>
        <button className="btn btn-sm" disabled={schedule.isPending || when === ''}>
          Set this time
        </button>
        <span className="text-muted text-sm">
          {Intl.DateTimeFormat().resolvedOptions().timeZone}.
          {draft.document.kind === 'form' && ' From when to when it is open is set under Show it.'}
        </span>
      </form>
      <ActionError error={schedule.error} />
    </section>
  );
}
