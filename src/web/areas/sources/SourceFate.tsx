import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import type { MadeDocument } from '../../../core/intake/index.ts';
import { useDuplicateSource, useSourceFate } from '../../data/sources.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { ActionError } from '../../parts/States.tsx';
import { ExactTime } from '../../parts/Time.tsx';
import type { Draft } from '../../parts/useDraft.ts';

/** What of a source is not as usual: it is archived, or goes live by itself. */
export function Standing({ source: { id, archivedAt, goesLive, keptBack } }: { source: SourceView }) {
  const fate = useSourceFate(id);
  const undo = (label: string, what: Parameters<typeof fate.mutate>[0]) => (
    <button className="btn btn-xs" disabled={fate.isPending} onClick={() => fate.mutate(what)}>
      {label}
    </button>
  );
  if (archivedAt === null && goesLive === null) return null;
  return (
    <div role="status" className="px-4 py-2 bg-base-200 border-b border-base-300 flex flex-wrap items-center gap-3">
      {archivedAt !== null ? (
        <>
          <span>
            Archived <ExactTime at={archivedAt} />: it takes nothing, and is on no page. What came of it stays.
          </span>
          {undo('Take it out again', 'restore')}
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
            {undo('Not by itself', { at: null })}
          </>
        )
      )}
      <ActionError error={fate.error} />
    </div>
  );
}

/** What can be done with a source as a whole. */
export function SourceFate({ source, draft }: { source: SourceView; draft: Draft<MadeDocument> }) {
  const { id, name, archivedAt, routes, state } = source;
  const duplicate = useDuplicateSource(id);
  const fate = useSourceFate(id);
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const [when, setWhen] = useState('');
  const fed = routes.filter((route) => route.state === 'live').map((route) => route.name);
  const schedule = async () => {
    if (await draft.flush()) fate.mutate({ at: Date.parse(when) }, { onSuccess: () => setWhen('') });
  };
  return (
    <section aria-labelledby="fate" className="px-5 py-3">
      <h3 id="fate" className="text-lg font-semibold">
        This source
      </h3>
      {archivedAt === null && (
        <form
          className="flex flex-wrap items-end gap-2 mt-2"
          onSubmit={(event) => {
            event.preventDefault();
            void schedule();
          }}
        >
          <label className="flex flex-col">
            <span className="text-quiet text-sm">Let the draft go live at</span>
            <input
              type="datetime-local"
              required
              className="input input-sm w-56"
              value={when}
              onChange={({ target }) => setWhen(target.value)}
            />
          </label>
          <button className="btn btn-sm" disabled={fate.isPending || when === ''}>
            Set this time
          </button>
          <span className="text-quiet text-sm">
            {Intl.DateTimeFormat().resolvedOptions().timeZone}. From when to when it is open is set under Show it.
          </span>
        </form>
      )}
      <div className="flex flex-wrap gap-2 mt-3">
        <button
          className="btn btn-sm"
          disabled={duplicate.isPending}
          onClick={() => duplicate.mutate(undefined, { onSuccess: (copy) => void navigate(`/sources/${copy.id}`) })}
        >
          Make a copy of this source
        </button>
        {archivedAt === null && (
          <button className="btn btn-sm" onClick={() => setAsking(true)}>
            Archive it
          </button>
        )}
      </div>
      <ActionError error={duplicate.error} />
      <ActionError error={fate.error} />
      <Dialog title={`Archive ${name}?`} open={asking} onClose={() => setAsking(false)}>
        <div className="flex flex-col gap-3">
          <p>
            {state === 'live' ? 'It takes nothing any more: visitors are told that it is closed. ' : ''}
            {fed.length > 0 ? `Nothing of it comes to ${fed.join(', ')} any more. ` : ''}
            It leaves the list of sources; what came of it, and the figures, stay. It can be taken out again.
          </p>
          <div className="flex gap-2">
            <button
              className="btn btn-sm btn-primary"
              disabled={fate.isPending}
              onClick={() => fate.mutate('archive', { onSuccess: () => setAsking(false) })}
            >
              Archive it
            </button>
            <button className="btn btn-sm" onClick={() => setAsking(false)}>
              Cancel
            </button>
          </div>
        </div>
      </Dialog>
    </section>
  );
}
