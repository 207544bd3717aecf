import type { UseMutationResult } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { LEADS_NOWHERE } from '../../core/intake/index.ts';
import type { PublishState } from '../../core/states/index.ts';
import { ApiProblem } from '../data/api.ts';
import type { Publishing } from '../data/publishing.ts';
import type { Draft } from './useDraft.ts';
import { Conflict } from './Conflict.tsx';
import { DraftBar } from './DraftBar.tsx';
import { StateMark } from './StateMark.tsx';
import { ActionError } from './States.tsx';

interface PublishBarProps<Document> {
  name: string;
  /** What can be done with it as a whole. */
  more?: ReactNode;
  /** Where the draft can be had as a file. */
  exportPath: string;
  view: { state: PublishState; liveVersion: number | null; changed: boolean };
  draft: Draft<Document>;
  publishing: UseMutationResult<unknown, Error, Publishing>;
  /** Asked before changes are published, once they are saved: it publishes them itself. */
  onPublish?: (() => void) | undefined;
  /** Shows the versions, where they can be seen. */
  onVersions?: () => void;
}

/** The head of a source or a route: its standing, its draft, and what makes it live. */
export function PublishBar<Document>({
  name,
  more,
  exportPath,
  view: { state, liveVersion, changed },
  draft,
  publishing,
  onPublish,
  onVersions,
}: PublishBarProps<Document>) {
  const unpublished = changed || draft.standing !== 'saved';
  const publish = async () => {
    if (!(await draft.flush())) return;
    if (onPublish) onPublish();
    else publishing.mutate('publish');
  };
  const problem = publishing.error instanceof ApiProblem ? publishing.error : null;
  const asked = typeof publishing.variables === 'object' ? publishing.variables : {};
  const { reset } = publishing;
  // What stood in the way may be mended by now: it is asked again by publishing again.
  useEffect(() => reset(), [draft.document, reset]);
  return (
    <div className="px-4 py-2 border-b border-base-300 sticky top-0 bg-base-100 z-40">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h2 className="text-lg font-semibold">{name}</h2>
        {more}
        <StateMark of="publishing" state={state} />
        {liveVersion !== null &&
          (onVersions ? (
            <button className="plain-link" onClick={onVersions}>
              version {liveVersion}
            </button>
          ) : (
            <span className="text-muted">version {liveVersion}</span>
          ))}
        {liveVersion !== null && unpublished && <StateMark of="publishing" state="changed" />}
        <div className="ml-auto flex flex-wrap items-center gap-1">
          <DraftBar draft={draft} />
          <a
            className="btn btn-sm btn-ghost btn-square"
            href={`/api${exportPath}`}
            download
            aria-label="Export"
            title="Export as a file"
          >
            <Download size={16} aria-hidden="true" />
          </a>
          {state === 'live' && (
            <button className="btn btn-sm" onClick={() => publishing.mutate('pause')} disabled={publishing.isPending}>
              Pause
            </button>
          )}
          {state === 'paused' && (
            <button className="btn btn-sm" onClick={() => publishing.mutate('resume')} disabled={publishing.isPending}>
              Resume
            </button>
          )}
          <button
            className="btn btn-sm btn-primary"
            onClick={() => void publish()}
            disabled={publishing.isPending || (!unpublished && state !== 'draft')}
          >
            {liveVersion === null ? 'Publish' : 'Publish changes'}
          </button>
        </div>
      </div>
      <Conflict draft={draft} />
      {problem && problem.issues.length > 0 ? (
        <div role="alert" className="mt-2 text-error">
          <p className="font-semibold">{problem.message}</p>
          <ul className="list-disc pl-5">
            {problem.issues.map(({ pointer, detail }) => (
              <li key={pointer + detail}>{detail}</li>
            ))}
          </ul>
          {problem.type === `/problems/${LEADS_NOWHERE}` && (
            <button
              className="btn btn-sm mt-1"
              disabled={publishing.isPending}
              onClick={() => publishing.mutate({ ...asked, anyway: true })}
            >
              Publish it all the same
            </button>
          )}
        </div>
      ) : (
        <ActionError error={publishing.error} />
      )}
    </div>
  );
}
