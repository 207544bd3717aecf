import { NavLink } from 'react-router';

/** What arrives, what becomes of it, and what people do here. */
export function ActivityTabs() {
  const look = ({ isActive }: { isActive: boolean }) =>
    `pb-1 border-b-2 ${isActive ? 'border-primary font-semibold' : 'border-transparent text-muted'}`;
  return (
    <nav aria-label="Activity" className="flex gap-5 text-lg">
      <NavLink to="/activity" end className={look}>
        Submissions
      </NavLink>
      <NavLink to="/activity/deliveries" className={look}>
        Deliveries
      </NavLink>
      <NavLink to="/activity/chats" className={look}>
        Chats
      </NavLink>
      <NavLink to="/activity/changes" className={look}>
        Changes
      </NavLink>
    </nav>
  );
}
