import { CircleUserRound, Command, LogOut, Moon, Sun } from 'lucide-react';
import { NuqsAdapter } from 'nuqs/adapters/react-router/v7';
import { lazy, Suspense, useEffect, useState } from 'react';
import { Link, NavLink, Navigate, Outlet, useLocation, useNavigate } from 'react-router';
import { ApiProblem } from '../data/api.ts';
import { useSession, useSignOut } from '../data/session.ts';
import { Failed } from '../parts/States.tsx';
import { useTheme } from '../parts/useTheme.ts';
import { AREAS } from './areas.ts';
import { BottomLine } from './BottomLine.tsx';
import { KeysDialog } from './KeysDialog.tsx';

const CommandPalette = lazy(() =>
  import('./CommandPalette.tsx').then((module) => ({ default: module.CommandPalette })),
);

/** What is around every view: areas above, the state of everything below. */
export function Shell() {
  const location = useLocation();
  const session = useSession();
  if (session.error instanceof ApiProblem && session.error.status === 401) {
    return <Navigate to={`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`} replace />;
  }
  if (session.isError) return <Failed error={session.error} again={() => void session.refetch()} />;
  return (
    <div className="h-dvh flex flex-col bg-base-100 text-base-content">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:m-2 focus:p-2 focus:bg-base-100"
      >
        Skip to the content
      </a>
      <TopBar name={session.data?.account.name ?? ''} />
      <main id="main" className="flex-1 min-h-0 overflow-hidden" tabIndex={-1}>
        {session.data && (
          <Suspense fallback={<p className="p-6 text-muted">Loading</p>}>
            <NuqsAdapter>
              <Outlet />
            </NuqsAdapter>
          </Suspense>
        )}
      </main>
      <BottomLine />
      <KeysDialog />
    </div>
  );
}

function TopBar({ name }: { name: string }) {
  const [theme, setTheme] = useTheme();
  const [paletteOpen, setPaletteOpen] = useState(false);
  const end = useSignOut();
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
        event.preventDefault();
        setPaletteOpen(true);
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  const signOut = () => end.mutate(undefined, { onSuccess: () => void navigate('/sign-in') });
  const isNight = theme === 'night';
  return (
    <header className="flex items-stretch h-11 border-b border-base-300 bg-base-200 shrink-0">
      <span className="flex items-center px-4 font-semibold tracking-wide text-primary text-lg">iwashi</span>
      <nav aria-label="Areas" className="flex items-stretch overflow-x-auto">
        {AREAS.map(({ to, label, icon: Icon }) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className={({ isActive }) =>
              `flex items-center gap-1.5 px-3 border-b-2 whitespace-nowrap ${isActive ? 'border-primary font-semibold bg-base-100' : 'border-transparent text-muted hover:text-base-content'}`
            }
          >
            <Icon size={15} aria-hidden="true" className="hidden md:block" />
            {label}
          </NavLink>
        ))}
      </nav>
      <div className="ml-auto flex items-center gap-1 px-2">
        <button className="btn btn-sm btn-ghost" onClick={() => setPaletteOpen(true)}>
          <Command size={14} aria-hidden="true" /> <span className="hidden lg:inline">Go to</span>
          <kbd className="kbd kbd-xs hidden lg:inline-flex">Ctrl K</kbd>
        </button>
        <button
          className="btn btn-sm btn-ghost btn-square"
          onClick={() => setTheme(isNight ? 'day' : 'night')}
          aria-label={isNight ? 'Change to day colours' : 'Change to night colours'}
        >
          {isNight ? <Sun size={16} aria-hidden="true" /> : <Moon size={16} aria-hidden="true" />}
        </button>
        <Link to="/account" className="btn btn-sm btn-ghost font-normal text-muted" title="Access for other programs">
          <CircleUserRound size={16} aria-hidden="true" />
          <span className="sr-only lg:not-sr-only">{name || 'Account'}</span>
        </Link>
        <button className="btn btn-sm btn-ghost" onClick={signOut}>
          <LogOut size={14} aria-hidden="true" /> <span className="hidden xl:inline">Sign out</span>
          <span className="xl:hidden sr-only">Sign out</span>
        </button>
      </div>
      {paletteOpen && (
        <Suspense>
          <CommandPalette onClose={() => setPaletteOpen(false)} />
        </Suspense>
      )}
    </header>
  );
}
