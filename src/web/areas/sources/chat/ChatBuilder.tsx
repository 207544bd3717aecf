import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { lazy, Suspense, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { checkChat, type ChatFinding, type StepKind } from '../../../../core/chat/index.ts';
import type { ChatDocument } from '../../../../core/intake/index.ts';
import { addPart, addStep, moveStep, removePart, removeStep, STEP_WORDS } from './chatEdits.ts';
import { ChatScript } from './ChatScript.tsx';

const ChatGraph = lazy(() => import('./ChatGraph.tsx'));

interface ChatBuilderProps {
  document: ChatDocument;
  /** The name of the variant of it that is worked on; '' for the chat itself. */
  variant: string;
  set: (part: Partial<ChatDocument>) => void;
  selected: string | null;
  onSelect: (id: string | null) => void;
}

const VIEWS = { drawing: 'Drawing', script: 'Script' } as const;

/** A conversation as it is built: drawn, or as a script; both are one document. */
export function ChatBuilder({ document, variant, set, selected, onSelect }: ChatBuilderProps) {
  const [params, setParams] = useSearchParams();
  const view = params.get('view') === 'script' ? 'script' : 'drawing';
  const { parts, fields } = document;
  const findings = useMemo(() => checkChat(parts, fields), [parts, fields]);
  const wrong = useMemo(() => new Map(findings.map(({ at, text }) => [at, text])), [findings]);
  return (
    <div className="flex flex-col min-h-0 flex-1">
      <div className="flex flex-wrap items-center gap-3 px-5 pt-3">
        <div role="tablist" aria-label="How it is shown" className="flex gap-1">
          {(Object.keys(VIEWS) as (keyof typeof VIEWS)[]).map((one) => (
            <button
              key={one}
              role="tab"
              aria-selected={one === view}
              className={`px-2.5 py-1.5 border-b-2 cursor-pointer ${one === view ? 'border-primary font-semibold' : 'border-transparent text-muted'}`}
              onClick={() =>
                setParams(
                  (before) => {
                    before.set('view', one);
                    return before;
                  },
                  { replace: true },
                )
              }
            >
              {VIEWS[one]}
            </button>
          ))}
        </div>
        {variant !== '' && <strong className="font-semibold text-primary">Variant {variant}</strong>}
        {view === 'drawing' && <StepBar {...{ document, set, selected, onSelect }} />}
      </div>
      {view === 'script' ? (
        <ChatScript document={document} onChange={set} />
      ) : (
        <div className="h-[32rem] border-y border-base-300 mt-2">
          <Suspense fallback={<p className="p-5 text-muted">Drawing it</p>}>
            <ChatGraph {...{ parts, fields, wrong, selected, onSelect }} />
          </Suspense>
        </div>
      )}
      <Findings findings={findings} onSelect={onSelect} />
    </div>
  );
}

/** What can be done with the step that is chosen. */
function StepBar({ document, set, selected, onSelect }: Omit<ChatBuilderProps, 'variant'>) {
  const { parts } = document;
  const part = parts.find(({ steps }) => steps.some(({ id }) => id === selected)) ?? parts.at(-1);
  const at = part?.steps.findIndex(({ id }) => id === selected) ?? -1;
  const add = (kind: StepKind) => {
    if (!part) return;
    const { id, ...changed } = addStep(document, part.id, at < 0 ? null : selected, kind);
    set(changed);
    onSelect(id);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <label className="flex items-center gap-1">
        <Plus size={15} aria-hidden="true" />
        <span className="sr-only">Add a step</span>
        <select
          className="select select-sm w-auto"
          value=""
          onChange={({ target }) => add(target.value as StepKind)}
          disabled={!part}
        >
          <option value="">{at < 0 ? `Add to “${part?.name ?? ''}”` : 'Add after it'}</option>
          {(Object.keys(STEP_WORDS) as StepKind[]).map((kind) => (
            <option key={kind} value={kind}>
              {STEP_WORDS[kind]}
            </option>
          ))}
        </select>
      </label>
      <button type="button" className="btn btn-sm" onClick={() => set({ parts: addPart(parts) })}>
        New part
      </button>
      {part && at >= 0 && selected !== null && (
        <>
          <button
            type="button"
            className="btn btn-sm btn-square"
            aria-label="Move it up"
            disabled={at === 0}
            onClick={() => set({ parts: moveStep(parts, selected, -1) })}
          >
            <ArrowUp size={15} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="btn btn-sm btn-square"
            aria-label="Move it down"
            disabled={at === part.steps.length - 1}
            onClick={() => set({ parts: moveStep(parts, selected, 1) })}
          >
            <ArrowDown size={15} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="btn btn-sm btn-square"
            aria-label="Remove the step"
            onClick={() => {
              set({ parts: removeStep(parts, selected) });
              onSelect(null);
            }}
          >
            <Trash2 size={15} aria-hidden="true" />
          </button>
        </>
      )}
      {part && part.steps.length === 0 && parts.length > 1 && (
        <button type="button" className="btn btn-sm" onClick={() => set({ parts: removePart(parts, part.id) })}>
          Remove “{part.name}”
        </button>
      )}
    </div>
  );
}

function Findings({ findings, onSelect }: { findings: ChatFinding[]; onSelect: (id: string) => void }) {
  return (
    <section aria-label="What was found" role="status" className="px-5 py-3">
      {findings.length === 0 ? (
        <p className="text-success">Every way leads to an end.</p>
      ) : (
        <ul className="flex flex-col gap-1">
          {findings.map(({ at, code, text, blocks }) => (
            <li key={`${at} ${code}`} className={blocks ? 'text-error' : 'text-warning'}>
              <button type="button" className="text-left underline cursor-pointer" onClick={() => onSelect(at)}>
                {text}
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
