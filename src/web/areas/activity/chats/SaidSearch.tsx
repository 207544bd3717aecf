import { Search } from 'lucide-react';
import type { FoundConversation } from '../../../../contract/chat.ts';
import { useSaid } from '../../../data/chats.ts';
import { MoreRows } from '../../../parts/MoreRows.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';
import { ConversationLink } from './ConversationLink.tsx';

/** The shortest that is looked for. */
const LEAST = 2;

/** Whether a text is enough to look for. */
export const isEnough = (text: string): boolean => text.trim().length >= LEAST;

/** A box for what was said. What is typed stays on this page: it may be of a person, and addresses are kept by many. */
export function SaidBox({ text, onText }: { text: string; onText: (text: string) => void }) {
  return (
    <label className="input input-sm w-full max-w-64">
      <Search size={14} aria-hidden="true" />
      <input
        type="search"
        value={text}
        maxLength={100}
        onChange={({ target }) => onText(target.value)}
        placeholder="What was said"
        aria-label="Look for what was said"
      />
    </label>
  );
}

interface SaidFoundProps {
  text: string;
  openId: string;
  search: string;
}

/** The conversations in which something was said, those first that began last. */
export function SaidFound({ text, openId, search }: SaidFoundProps) {
  const wanted = text.trim();
  const said = useSaid(wanted);
  const rows = (said.data?.pages ?? []).flatMap((page) => page.rows);
  return (
    <>
      <p role="status" className="p-3 text-muted text-sm">
        {said.isPending
          ? 'Looking for it'
          : rows.length === 0 && !said.hasNextPage
            ? `Nobody said “${wanted}”: neither a visitor nor a colleague.`
            : rows.length > 0 &&
              `Said in ${rows.length === 1 ? 'one conversation' : `${rows.length} conversations`}${said.hasNextPage ? ' so far' : ''}.`}
      </p>
      <ul>
        {rows.map((row) => (
          <ConversationLink key={row.id} row={row} isOpen={row.id === openId} search={search}>
            <Found row={row} wanted={wanted} />
          </ConversationLink>
        ))}
      </ul>
      <ActionError error={said.error} />
      {!said.isPending && <MoreRows query={said} />}
    </>
  );
}

/** So much is shown before what was found. */
const BEFORE = 30;

function Found({ row: { line, page }, wanted }: { row: FoundConversation; wanted: string }) {
  const [first = ''] = wanted.split(/\s+/);
  const at = line.text.toLocaleLowerCase().indexOf(first.toLocaleLowerCase());
  const from = Math.max(0, at - BEFORE);
  return (
    <>
      <span className="block break-words line-clamp-2">
        {at < 0 ? (
          line.text
        ) : (
          <>
            {from > 0 && '…'}
            {line.text.slice(from, at)}
            <mark className="bg-primary/20 text-inherit">{line.text.slice(at, at + first.length)}</mark>
            {line.text.slice(at + first.length)}
          </>
        )}
      </span>
      <span className="block text-muted text-sm truncate">
        {line.by === 'colleague' ? line.name : 'Visitor'}, <Time at={line.at} /> {page.replace(/^https?:\/\//, '')}
      </span>
    </>
  );
}
