import {
  Activity,
  ChartColumn,
  Handshake,
  LayoutDashboard,
  Plug,
  Route,
  SquarePen,
  Users,
  type LucideIcon,
} from 'lucide-react';

/** The areas in the order of the work. */
export const AREAS: { to: string; label: string; icon: LucideIcon }[] = [
  { to: '/', label: 'Overview', icon: LayoutDashboard },
  { to: '/connections', label: 'Connections', icon: Plug },
  { to: '/sources', label: 'Sources', icon: SquarePen },
  { to: '/routes', label: 'Routes', icon: Route },
  { to: '/people', label: 'People', icon: Users },
  { to: '/consent', label: 'Consent', icon: Handshake },
  { to: '/activity', label: 'Activity', icon: Activity },
  { to: '/insight', label: 'Insight', icon: ChartColumn },
];
