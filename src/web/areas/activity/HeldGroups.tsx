import { Link } from 'react-router';
import type { HeldGroupView } from '../../../contract/deliveries.ts';
import { CAUSES } from '../../../core/delivery/index.ts';
import { HeldGroupActions } from './HeldGroupActions.tsx';

interface HeldGroupsProps {
  groups: HeldGroupView[];
  /** The group that is open, as the URL says. */
  cause: string | null;
  connectionId: string | null;
}

/** What is held, grouped by why and where; the open group can be mended as a whole. */
export function HeldGroups({ groups, cause, connectionId }: HeldGroupsProps) {
  return (
    <ul className="p-4 flex flex-col gap-2 border-b border-base-300" aria-label="Held, by cause">
      {groups.map((group) => {
        const isOpen = cause === group.cause && connectionId === group.connectionId;
        const { sentence, nextStep } = CAUSES[group.cause];
        const search = new URLSearchParams({ state: 'held', cause: group.cause, connection: group.connectionId });
        return (
          <li key={group.cause + group.connectionId} className={`box ${isOpen ? 'border-primary' : ''}`}>
            <Link
              to={isOpen ? '?state=held' : `?${search.toString()}`}
              aria-current={isOpen ? 'true' : undefined}
              className="px-3 py-2 hover:bg-base-200 flex items-start justify-between gap-4"
            >
              <span>
                <strong className="text-error">{group.count} held</strong> · {group.connectionName}: {sentence}{' '}
                {group.detail && <q>{group.detail}</q>} <span className="text-muted">{nextStep}</span>
              </span>
              <span className="plain-link whitespace-nowrap">{isOpen ? 'Close' : 'Mend these'}</span>
            </Link>
            {isOpen && <HeldGroupActions key={group.cause + group.connectionId} group={group} />}
          </li>
        );
      })}
    </ul>
  );
}
