import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { ConversationRow } from '../../../../contract/chat.ts';
import { StateMark } from '../../../parts/StateMark.tsx';

interface ConversationLinkProps {
  row: ConversationRow;
  isOpen: boolean;
  /** What else the address says. */
  search: string;
  /** What is told of it below its name. */
  children: ReactNode;
}

/** One conversation in a list. */
export function ConversationLink({ row, isOpen, search, children }: ConversationLinkProps) {
  return (
    <li className={`border-b border-base-300 ${isOpen ? 'bg-base-200' : ''}`}>
      <Link
        data-row
        to={`/activity/chats/${row.id}${search === '' ? '' : `?${search}`}`}
        className="block p-3"
        aria-current={isOpen ? 'page' : undefined}
      >
        <span className="flex justify-between gap-2">
          <strong className="font-semibold truncate">{row.sourceName}</strong>
          <StateMark of="conversation" state={row.status} />
        </span>
        {children}
      </Link>
    </li>
  );
}
