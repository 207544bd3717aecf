import { useState } from 'react';
import { Upload } from 'lucide-react';
import { Link } from 'react-router';
import type { ImportView } from '../../../../contract/imports.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { inBytes } from '../../../../core/values/index.ts';
import { ApiProblem } from '../../../data/api.ts';
import { useActOnImport, useBringFile, useImports } from '../../../data/imports.ts';
import { Dialog } from '../../../parts/Dialog.tsx';
import { FileButton } from '../../../parts/FileButton.tsx';
import { StateMark } from '../../../parts/StateMark.tsx';
import { ActionError, Loaded } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { FeedPanel } from './FeedPanel.tsx';
import { countedRows, rowsOf } from './rowsOf.ts';
import { RunForm } from './RunForm.tsx';

/** The files that were brought, and how far each has come. */
export function FilePanel({ source }: { source: SourceView }) {
  const bring = useBringFile(source.id);
  return (
    <div className="p-4 flex flex-col gap-4">
      <section aria-labelledby="bring">
        <h2 id="bring" className="font-semibold text-lg mb-1">
          Bring a file
        </h2>
        <p className="text-muted mb-2">It is looked through first. Nothing is taken or sent until you say so.</p>
        <FileButton
          icon={<Upload size={14} aria-hidden="true" />}
          busy={bring.isPending}
          onFile={(file) => bring.mutate(file)}
        />
        <ActionError error={bring.error} />
      </section>
      <FeedPanel source={source} />
      <Imports source={source} />
    </div>
  );
}

/** What was brought, or fetched, and how far each has come. */
export function Imports({ source }: { source: SourceView }) {
  return (
    <Loaded query={useImports(source.id)}>
      {(files) => (
        <>
          {files.map((file, at) => (
            <Import key={file.id} source={source} file={file} isOpen={at === 0} />
          ))}
        </>
      )}
    </Loaded>
  );
}

interface ImportProps {
  source: SourceView;
  file: ImportView;
  isOpen: boolean;
}

/** One import, and what can be done with it. */
function Import({ source, file, isOpen }: ImportProps) {
  const act = useActOnImport(source.id, file.id);
  const { state, total, done, counts } = file;
  const isCounted = ['running', 'paused', 'done', 'cancelled', 'undoing', 'undone'].includes(state);
  return (
    <details className="box p-3" open={isOpen}>
      <summary className="cursor-pointer">
        <span className="font-semibold break-all">{file.name}</span> <StateMark of="import" state={state} />
        <span className="block text-muted text-sm">
          {file.fetched === null ? `${inBytes(file.size)}, ` : ''}
          {total > 0 ? `${countedRows(file, total)}, ` : ''}
          {cameOf(file)} <Time at={file.at} />
        </span>
      </summary>
      <div className="flex flex-col gap-3 mt-3">
        {state === 'fetching' && <p role="status">They are fetched: {file.fetched} so far.</p>}
        {state === 'judging' && <p role="status">It is looked through: {done} rows so far.</p>}
        {file.problem !== '' && <p className="text-error font-semibold">{file.problem}</p>}
        {(state === 'rehearsing' || state === 'running') && (
          <label className="flex flex-col">
            <span className="text-muted text-sm">
              {state === 'running' ? 'Taken or refused' : 'Rehearsed'}: {done} of {total}
            </span>
            <progress className="progress w-full" value={done} max={total} />
          </label>
        )}
        {file.rehearsed && <Rehearsed file={file} />}
        {(state === 'ready' || state === 'rehearsing') && <RunForm source={source} file={file} act={act} />}
        {isCounted && (
          <dl className="grid grid-cols-[auto_1fr] gap-x-3">
            <dt className="text-muted">Taken</dt>
            <dd>{counts.taken}</dd>
            <dt className="text-muted">Refused</dt>
            <dd>{counts.refused}</dd>
            {counts.unchanged !== undefined && (
              <>
                <dt className="text-muted">The same as before</dt>
                <dd>{counts.unchanged}</dd>
              </>
            )}
          </dl>
        )}
        {state === 'undoing' && (
          <p role="status">
            It is being undone: {counts.undone ?? 0} of {counts.taken} so far.
          </p>
        )}
        {state === 'undone' && <p>{undoneInWords(file)}</p>}
        {isCounted && counts.taken > 0 && (
          <Link className="plain-link" to={`/activity?source=${source.id}`}>
            What became of them
          </Link>
        )}
        {isCounted && counts.refused > 0 && (
          <p>
            <a className="plain-link" href={`/api/sources/${source.id}/imports/${file.id}/rejects.csv`} download>
              The rows that were refused, with why
            </a>
            : mend them there, and bring that file.
          </p>
        )}
        {state === 'paused' && source.state !== 'live' && (
          <p className="text-warning">The source takes nothing now: let it go on first.</p>
        )}
        <div className="flex flex-wrap gap-2">
          {state === 'running' && (
            <button type="button" className="btn btn-sm" onClick={() => act.mutate({ act: 'pause' })}>
              Pause
            </button>
          )}
          {state === 'paused' && (
            <button type="button" className="btn btn-sm" onClick={() => act.mutate({ act: 'resume' })}>
              Go on
            </button>
          )}
          {(state === 'fetching' || state === 'judging' || state === 'running' || state === 'paused') && (
            <button type="button" className="btn btn-sm" onClick={() => act.mutate({ act: 'cancel' })}>
              {state === 'fetching' || state === 'judging'
                ? 'Cancel'
                : `Cancel: the ${rowsOf(file)} that are left stay out`}
            </button>
          )}
          {state === 'rehearsing' && (
            <button type="button" className="btn btn-sm" onClick={() => act.mutate({ act: 'end-rehearsal' })}>
              Cancel the rehearsal
            </button>
          )}
          {(state === 'done' || state === 'cancelled') && counts.taken > 0 && (
            <Undo file={file} isPending={act.isPending} onUndo={() => act.mutate({ act: 'undo' })} />
          )}
          <button type="button" className="btn btn-sm btn-ghost" onClick={() => act.mutate({ act: 'delete' })}>
            {state === 'running' || state === 'undoing' ? 'Stop, and delete the file here' : 'Delete the file here'}
          </button>
        </div>
        {!isBeside(act.error) && <ActionError error={act.error} />}
      </div>
    </details>
  );
}

/** Undoes what an import did, once it was said what that means. */
function Undo({ file, isPending, onUndo }: { file: ImportView; isPending: boolean; onUndo: () => void }) {
  const [isAsked, ask] = useState(false);
  return (
    <>
      <button type="button" className="btn btn-sm" disabled={isPending} onClick={() => ask(true)}>
        Undo it
      </button>
      <Dialog title={`Undo ${file.name}`} open={isAsked} onClose={() => ask(false)}>
        <ul className="list-disc pl-5 flex flex-col gap-1">
          <li>What waits to be sent is not sent.</li>
          <li>What the file said of people here, and what they agreed to by it, does not count any more.</li>
          <li>Contacts that came only from this import are removed.</li>
          <li>What has gone to other systems stays there: it is counted, and listed in Activity.</li>
        </ul>
        <p className="mt-2">This cannot be undone in turn. The file can be brought again.</p>
        <div className="flex gap-2 mt-4">
          <button
            type="button"
            className="btn btn-sm btn-error"
            onClick={() => {
              ask(false);
              onUndo();
            }}
          >
            Undo the import
          </button>
          <button type="button" className="btn btn-sm" onClick={() => ask(false)}>
            Keep it
          </button>
        </div>
      </Dialog>
    </>
  );
}

/** What became of an import that was undone. */
function undoneInWords(file: ImportView): string {
  const { undone = 0, gone = 0, stay = 0 } = file.counts;
  const people = gone === 1 ? 'One person was' : `${gone} people were`;
  const left =
    stay === 0
      ? 'Nothing had gone to another system.'
      : `${stay === 1 ? 'One delivery had' : `${stay} deliveries had`} gone to other systems, and ${stay === 1 ? 'stays' : 'stay'} there.`;
  return `Undone: ${countedRows(file, undone)}. ${people} known by nothing else. ${left}`;
}

/** How a file came. */
function cameOf({ fedBy, fetched, by }: ImportView): string {
  if (fedBy === 'address') return 'came from its address';
  if (fedBy === 'folder') return 'came from its folder';
  return `${fetched === null ? 'brought' : 'fetched'} by ${by}`;
}

/** Whether what is wrong is said beside what it concerns. */
const isBeside = (error: unknown): boolean => error instanceof ApiProblem && error.issues.length > 0;

/** What would become of its rows, as far as it was rehearsed. */
function Rehearsed({ file }: { file: ImportView }) {
  const { rehearsed, state } = file;
  if (!rehearsed) return null;
  const { rows, fresh, known, changed, possible, noConsent, nobody, refused, unchanged } = rehearsed;
  const lines: [label: string, count: number, tone?: string][] = [
    ['New people', fresh],
    ['Known, and nothing changes', known],
    ['Known, and something changes', changed],
    ['Perhaps somebody who is known', possible, 'text-warning'],
    ['Without the consent that is needed', noConsent, 'text-warning'],
    ['Say nothing of who it is', nobody, 'text-warning'],
    ['Refused', refused, 'text-error'],
    ...(unchanged === undefined ? [] : [['The same as in the file of before', unchanged] as [string, number]]),
  ];
  return (
    <section aria-label="Rehearsal">
      <h3 className="font-semibold">
        {state === 'rehearsing'
          ? `Of the first ${countedRows(file, rows)}`
          : state === 'ready'
            ? `Of ${countedRows(file, rows)}, as everything is live`
            : `As it was rehearsed, of ${countedRows(file, rows)}`}
      </h3>
      <dl className="grid grid-cols-[1fr_auto] gap-x-3">
        {lines.map(([label, count, tone]) => (
          <div key={label} className="contents">
            <dt className="text-muted">{label}</dt>
            <dd className={`text-right ${count > 0 ? (tone ?? '') : ''}`}>{count}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
