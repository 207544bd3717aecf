import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { MOST_CONVERSATIONS, type ConversationRow, type ConversationView } from '../../../../contract/chat.ts';
import { useConversation, useConversations, useEarlierConversations, useTalk } from '../../../data/chats.ts';
import { MoreRows } from '../../../parts/MoreRows.tsx';
import { StateMark } from '../../../parts/StateMark.tsx';
import { ActionError, Empty, Loaded } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { useRested } from '../../../parts/useRested.ts';
import { ActivityTabs } from '../ActivityTabs.tsx';
import { ConversationLink } from './ConversationLink.tsx';
import { SaidLines } from './SaidLines.tsx';
import { isEnough, SaidBox, SaidFound } from './SaidSearch.tsx';

/** Conversations that visitors have now, or had; each can be taken over. */
export function ChatsPage() {
  const { id = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const which = params.get('which') === 'all' ? 'all' : 'open';
  const conversations = useConversations(which);
  const [text, setText] = useState('');
  const wanted = useRested(text);
  return (
    <div className="h-full flex flex-col">
      <div className="flex flex-wrap items-center gap-3 p-4 border-b border-base-300">
        <ActivityTabs />
        <div className="ml-3">
          <SaidBox text={text} onText={setText} />
        </div>
        <label className="flex gap-2 items-center ml-auto">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={which === 'all'}
            onChange={({ target }) => setParams(target.checked ? { which: 'all' } : {})}
          />
          Include ended conversations
        </label>
      </div>
      <div className="flex-1 min-h-0 grid md:grid-cols-[22rem_1fr]">
        <section aria-label="Conversations" className="overflow-auto border-r border-base-300" tabIndex={0}>
          {isEnough(wanted) ? (
            <SaidFound text={wanted} openId={id} search={params.toString()} />
          ) : (
            <Loaded query={conversations}>
              {(rows) =>
                rows.length === 0 ? (
                  <Empty
                    title="Nobody is talking now"
                    action={
                      <Link to="/sources" className="btn btn-sm">
                        To the sources
                      </Link>
                    }
                  >
                    Conversations of your chats stand here while they go on. One that waits for a colleague stands
                    first.
                  </Empty>
                ) : (
                  <>
                    <ul>
                      {rows.map((row) => (
                        <Row key={row.id} row={row} isOpen={row.id === id} search={params.toString()} />
                      ))}
                    </ul>
                    {rows.length === MOST_CONVERSATIONS && (
                      <Earlier which={which} rows={rows} openId={id} search={params.toString()} />
                    )}
                  </>
                )
              }
            </Loaded>
          )}
        </section>
        {id === '' ? (
          <p className="p-6 text-muted">Choose a conversation to read along, or to take it over.</p>
        ) : (
          <Open key={id} id={id} />
        )}
      </div>
    </div>
  );
}

interface EarlierProps {
  which: 'open' | 'all';
  rows: ConversationRow[];
  openId: string;
  search: string;
}

/** What stands behind the newest, which alone are told as they change: from the last one that stood there when somebody asked. */
function Earlier({ which, rows, openId, search }: EarlierProps) {
  const [from, setFrom] = useState<ConversationRow | null>(null);
  const last = rows.at(-1) as ConversationRow;
  const earlier = useEarlierConversations(which, from ?? last, from !== null);
  if (from === null)
    return (
      <div className="p-4">
        <button className="btn btn-sm" onClick={() => setFrom(last)}>
          Show more
        </button>
      </div>
    );
  const known = new Set(rows.map(({ id }) => id));
  const found = (earlier.data?.pages ?? []).flatMap((page) => page.rows).filter(({ id }) => !known.has(id));
  return (
    <>
      <ul>
        {found.map((row) => (
          <Row key={row.id} row={row} isOpen={row.id === openId} search={search} />
        ))}
      </ul>
      <ActionError error={earlier.error} />
      <MoreRows query={earlier} />
    </>
  );
}

function Row({ row, isOpen, search }: { row: ConversationRow; isOpen: boolean; search: string }) {
  return (
    <ConversationLink {...{ row, isOpen, search }}>
      <span className="block truncate">{row.last}</span>
      <span className="block text-muted text-sm truncate">
        <Time at={row.touchedAt} /> {row.page.replace(/^https?:\/\//, '')}
      </span>
    </ConversationLink>
  );
}

function Open({ id }: { id: string }) {
  const conversation = useConversation(id);
  return (
    <section aria-label="The conversation" className="min-h-0 overflow-hidden flex flex-col">
      <Loaded query={conversation}>{(view) => <Conversation view={view} />}</Loaded>
    </section>
  );
}

function Conversation({ view }: { view: ConversationView }) {
  const act = useTalk(view.id);
  const navigate = useNavigate();
  const end = useRef<HTMLDivElement>(null);
  useEffect(() => {
    end.current?.scrollIntoView({ block: 'nearest' });
  }, [view.said.length]);
  const isTaken = view.status === 'taken';
  return (
    <>
      <div className="flex flex-wrap gap-2 items-center p-4 border-b border-base-300">
        <h2 className="font-semibold text-lg">{view.sourceName}</h2>
        <StateMark of="conversation" state={view.status} />
        {isTaken && <span className="text-muted">{view.colleague} has it</span>}
        <span className="flex-1" />
        {!isTaken && view.status !== 'ended' && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={act.isPending}
            onClick={() => act.mutate({ act: 'take' })}
          >
            Take it over
          </button>
        )}
        {isTaken && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={act.isPending}
            onClick={() => act.mutate({ act: 'give-back' })}
          >
            Let the chat go on
          </button>
        )}
        {view.status !== 'ended' && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={act.isPending}
            onClick={() => act.mutate({ act: 'end' })}
          >
            End it
          </button>
        )}
        {view.submissionId !== null && (
          <button type="button" className="btn btn-sm" onClick={() => void navigate(`/activity/${view.submissionId}`)}>
            What became of it
          </button>
        )}
      </div>
      <div className="flex-1 min-h-0 overflow-auto p-4" tabIndex={0} role="log" aria-label="What was said">
        {view.answers.length > 0 && (
          <dl className="grid grid-cols-[auto_1fr] gap-x-3 mb-4">
            {view.answers.map(({ label, value, link }) => (
              <div key={label} className="contents">
                <dt className="text-muted">{label}</dt>
                <dd className="break-words min-w-0">
                  {link === '' ? (
                    value
                  ) : (
                    <a className="plain-link" href={link}>
                      {value}
                    </a>
                  )}
                </dd>
              </div>
            ))}
          </dl>
        )}
        <SaidLines said={view.said} />
        <div ref={end} />
      </div>
      <ActionError error={act.error} />
      {isTaken && (
        <Reply busy={act.isPending} onSay={(text, done) => act.mutate({ act: 'say', text }, { onSuccess: done })} />
      )}
    </>
  );
}

function Reply({ busy, onSay }: { busy: boolean; onSay: (text: string, done: () => void) => void }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex gap-2 p-4 border-t border-base-300"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== '') onSay(text.trim(), () => setText(''));
      }}
    >
      <label className="sr-only" htmlFor="reply">
        Your answer
      </label>
      <input
        id="reply"
        className="input flex-1"
        value={text}
        autoComplete="off"
        maxLength={2000}
        onChange={({ target }) => setText(target.value)}
      />
      <button className="btn btn-primary" disabled={busy || text.trim() === ''}>
        Say it
      </button>
    </form>
  );
}
