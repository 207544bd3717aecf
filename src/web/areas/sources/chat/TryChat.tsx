import { useState } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import {
  answerChat,
  awaited,
  beginChat,
  FINISHED_FIELD,
  type ChatFacts,
  type ChatInput,
  type ChatLine,
  type ChatState,
  type ChatTurn,
} from '../../../../core/chat/index.ts';
import type { ChatDocument } from '../../../../core/intake/index.ts';
import { isFile, printValue, type FileValue, type SourceField } from '../../../../core/values/index.ts';
import { chatLineIn } from '../../../../forms/index.ts';
import { useRoute, useRehearsal } from '../../../data/routes.ts';
import { PlanView } from '../../activity/PlanView.tsx';

interface TryChatProps {
  source: SourceView;
  document: ChatDocument;
  known: SourceField[];
}

interface Tried {
  state: ChatState;
  lines: ChatLine[];
  effects: ChatTurn['effects'];
  wrong: string;
}

/** The draft as a visitor would have it, with what would be planned of it at each moment. Nothing is kept, sent or counted. */
export function TryChat({ source, document, known }: TryChatProps) {
  const language = document.language === 'visitor' ? 'en' : document.language;
  const facts = (): ChatFacts => ({
    fields: document.fields,
    language,
    known: {},
    knowledge: known,
    now: Date.now(),
  });
  const [tried, setTried] = useState<Tried | null>(null);
  const begin = () => setTried(added(null, beginChat(document, facts())));
  const say = (input: ChatInput) => {
    if (tried) setTried(added(tried, answerChat(document, tried.state, input, facts())));
  };
  const isThere =
    tried === null ||
    tried.state.at === null ||
    document.parts.some(({ steps }) => steps.some(({ id }) => id === tried.state.at));
  if (!tried || !isThere)
    return (
      <div className="flex flex-col gap-2">
        <p className="text-muted">Have the conversation as a new visitor would. Nothing is kept or sent.</p>
        <button type="button" className="btn btn-sm btn-primary self-start" onClick={begin}>
          Try it
        </button>
      </div>
    );
  return (
    <div className="flex flex-col gap-4">
      <div className="box p-3 flex flex-col gap-2" role="log" aria-label="The conversation, tried">
        {tried.lines.map((line, at) => (
          <p
            key={at}
            className={`px-3 py-1.5 rounded max-w-[85%] whitespace-pre-wrap ${line.by === 'us' ? 'border border-base-300 self-start' : 'bg-primary text-primary-content self-end'}`}
          >
            {chatLineIn(language, line)}
            {line.link && (
              <a className="plain-link block" href={line.link.url} target="_blank" rel="noreferrer">
                {line.link.text || line.link.url}
              </a>
            )}
          </p>
        ))}
      </div>
      <Answering
        awaits={awaited(document, tried.state, document.fields)}
        isOver={tried.state.at === null}
        onSay={say}
      />
      {tried.wrong !== '' && <p className="text-error font-semibold">{tried.wrong}</p>}
      {tried.effects.map((effect, at) => (
        <p key={at} className="text-muted">
          {effect.kind === 'notify'
            ? `A mail would go to ${effect.to.join(', ')}: “${effect.subject}”`
            : `A colleague would be waited for, ${effect.seconds} seconds.`}
        </p>
      ))}
      <button type="button" className="btn btn-sm self-start" onClick={begin}>
        Begin anew
      </button>
      <Planned source={source} document={document} state={tried.state} />
    </div>
  );
}

const added = (before: Tried | null, { state, lines, effects, issues }: ChatTurn): Tried => ({
  state,
  lines: [...(before?.lines ?? []), ...lines],
  effects: [...(before?.effects ?? []), ...effects],
  wrong: issues.map(({ message }) => message).join(' '),
});

interface AnsweringProps {
  awaits: ReturnType<typeof awaited>;
  isOver: boolean;
  onSay: (input: ChatInput) => void;
}

function Answering({ awaits, isOver, onSay }: AnsweringProps) {
  if (isOver) return <p className="text-muted">It has ended.</p>;
  switch (awaits.kind) {
    case 'choice':
      return (
        <div className="flex flex-wrap gap-2">
          {awaits.choices.map((label) => (
            <button
              key={label}
              type="button"
              className="btn btn-sm"
              onClick={() => onSay({ kind: 'text', text: label })}
            >
              {label}
            </button>
          ))}
          <Typing onSay={onSay} />
        </div>
      );
    case 'consent':
      return (
        <div className="flex flex-wrap gap-2">
          <p className="w-full">{awaits.words}</p>
          <button type="button" className="btn btn-sm" onClick={() => onSay({ kind: 'consent', yes: true })}>
            Yes
          </button>
          <button type="button" className="btn btn-sm" onClick={() => onSay({ kind: 'consent', yes: false })}>
            No
          </button>
        </div>
      );
    case 'form':
      return (
        <form
          className="flex flex-col gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const entries = Object.fromEntries(
              [...new FormData(event.currentTarget)].filter(
                (one): one is [string, string] => typeof one[1] === 'string',
              ),
            );
            onSay({ kind: 'form', entries });
          }}
        >
          {awaits.fields.map(({ key, label }) => (
            <label key={key} className="flex flex-col">
              {label}
              <input className="input input-sm" name={key} />
            </label>
          ))}
          <button className="btn btn-sm self-start">Send</button>
        </form>
      );
    case 'file':
      return (
        <div className="flex flex-wrap gap-2">
          <input
            type="file"
            className="file-input file-input-sm"
            aria-label="A file"
            accept={awaits.kinds.join(',')}
            onChange={({ target }) => {
              const [file] = target.files ?? [];
              if (file) onSay({ kind: 'file', file: triedFile(file) });
              target.value = '';
            }}
          />
          {!awaits.required && (
            <button type="button" className="btn btn-sm" onClick={() => onSay({ kind: 'file', file: null })}>
              Go on without one
            </button>
          )}
        </div>
      );
    case 'colleague':
      return (
        <button type="button" className="btn btn-sm self-start" onClick={() => onSay({ kind: 'nobody came' })}>
          Nobody comes
        </button>
      );
    case 'text':
      return <Typing onSay={onSay} />;
    default:
      return null;
  }
}

/** A file as it would be kept: it stays on this machine. */
const triedFile = ({ name, type, size }: File): FileValue => ({
  file: '',
  name,
  mediaType: type || 'application/octet-stream',
  size,
  sha256: '',
  link: '',
});

const Typing = ({ onSay }: Pick<AnsweringProps, 'onSay'>) => (
  <form
    className="flex gap-2 w-full"
    onSubmit={(event) => {
      event.preventDefault();
      const text = new FormData(event.currentTarget).get('text');
      event.currentTarget.reset();
      if (typeof text === 'string' && text.trim() !== '') onSay({ kind: 'text', text: text.trim() });
    }}
  >
    <input className="input input-sm flex-1" name="text" aria-label="Your answer" autoComplete="off" />
    <button className="btn btn-sm">Send</button>
  </form>
);

/** What the first route of the source would make of it, were it over now. */
function Planned({ source, document, state }: { source: SourceView; document: ChatDocument; state: ChatState }) {
  const [first] = source.routes;
  const answers = document.fields.flatMap(({ id, label }) => {
    const value = state.values[id];
    return value === undefined ? [] : [{ label, value: isFile(value) ? value.name : printValue(value) }];
  });
  return (
    <section aria-labelledby="would-be" aria-live="polite">
      <h3 id="would-be" className="font-semibold">
        What would come of it now
      </h3>
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 mb-2">
        {answers.map(({ label, value }) => (
          <div key={label} className="contents">
            <dt className="text-muted">{label}</dt>
            <dd className="break-words min-w-0">{value}</dd>
          </div>
        ))}
      </dl>
      {first ? (
        <OfRoute routeId={first.id} sourceId={source.id} values={{ ...state.values, [FINISHED_FIELD]: true }} />
      ) : (
        <p className="text-muted">No route takes it: it would be kept here.</p>
      )}
    </section>
  );
}

function OfRoute({ routeId, sourceId, values }: { routeId: string; sourceId: string; values: ChatState['values'] }) {
  const route = useRoute(routeId);
  return route.data ? <Rehearsed route={route.data} sourceId={sourceId} values={values} /> : null;
}

function Rehearsed({
  route,
  sourceId,
  values,
}: {
  route: Parameters<typeof useRehearsal>[0];
  sourceId: string;
  values: ChatState['values'];
}) {
  const rehearsal = useRehearsal(route, { sourceId, values, visit: {}, standing: '' });
  return rehearsal.data ? <PlanView plan={rehearsal.data.plan} names={rehearsal.data.names} /> : null;
}
