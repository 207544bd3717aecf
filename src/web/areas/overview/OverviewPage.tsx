import type { ReactNode } from 'react';
import { Bot, CircleCheck, Hand, HardDrive, Plug, Route, TriangleAlert, Volume1, type LucideIcon } from 'lucide-react';
import { Link } from 'react-router';
import type { OverviewView } from '../../../contract/overview.ts';
import { useOverview } from '../../data/overview.ts';
import { Empty, Loaded } from '../../parts/States.tsx';
import { SubmissionTable } from '../activity/SubmissionTable.tsx';
import { useSubmissions } from '../../data/activity.ts';
import { FlowMapView } from './FlowMapView.tsx';

const ICONS: Record<string, LucideIcon> = {
  held: Hand,
  connection: Plug,
  failed: TriangleAlert,
  'set aside': Bot,
  mail: TriangleAlert,
  route: Route,
  silent: Volume1,
  disk: HardDrive,
};

export function OverviewPage() {
  const overview = useOverview();
  return (
    <div className="h-full overflow-auto" tabIndex={0} role="region" aria-label="Overview">
      <Loaded query={overview}>{(data) => <Overview data={data} />}</Loaded>
    </div>
  );
}

function Overview({ data: { since, today, needs, flows, moreRoutes } }: { data: OverviewView }) {
  // A figure leads to the very things that it counts; where no list is of them alone, it leads nowhere.
  const figures: [number, string, string | null][] = [
    [today.submissions, 'submissions', `/activity?from=${since}&notices=without`],
    [today.people, 'new people', null],
    [today.confirmed, 'confirmed', null],
    [today.delivered, 'delivered', `/activity/deliveries?state=delivered&since=${since}`],
  ];
  return (
    <div className="p-5 grid gap-6 xl:grid-cols-[minmax(0,1fr)_24rem] items-start">
      <div className="min-w-0">
        <h1 className="text-xl font-semibold">Overview</h1>
        <p className="text-muted">Last 24 hours</p>
        <dl className="flex flex-wrap gap-x-8 gap-y-2 mb-6">
          {figures.map(([count, what, link]) => (
            <div key={what} className="flex items-baseline gap-1.5">
              <dd className="text-2xl font-semibold">{count}</dd>
              <dt>
                {link === null ? (
                  what
                ) : (
                  <Link to={link} className="plain-link">
                    {what}
                  </Link>
                )}
              </dt>
            </div>
          ))}
        </dl>
        <h2 className="text-lg font-semibold mb-2">What goes where, in the last seven days</h2>
        {flows.length > 0 ? (
          <>
            <FlowMapView flows={flows} />
            {moreRoutes > 0 && (
              <p className="mb-4">
                These are the busiest.{' '}
                <Link to="/routes?order=busiest" className="plain-link">
                  {moreRoutes} more {moreRoutes === 1 ? 'route is' : 'routes are'} live
                </Link>
                .
              </p>
            )}
          </>
        ) : (
          <Empty
            title="Nothing flows yet"
            action={
              <Link to="/connections/new" className="btn btn-sm btn-primary">
                Add the first connection
              </Link>
            }
          >
            Connect a system, build a form, and wire the two with a route. Then you see here how much goes where.
          </Empty>
        )}
        <JustIn />
      </div>
      <section aria-labelledby="needs" className="box">
        <h2 id="needs" className="box-title">
          Needs you
        </h2>
        {needs.length === 0 ? (
          <p className="p-4 flex gap-2 items-center">
            <CircleCheck size={18} className="text-success" aria-hidden="true" /> Nothing at the moment.
          </p>
        ) : (
          <ul>
            {needs.map(({ kind, count, text, link }) => {
              const Icon = ICONS[kind] ?? TriangleAlert;
              return (
                <li key={kind + text} className="border-b border-base-300 last:border-0">
                  <NeedLine link={link}>
                    <Icon
                      size={17}
                      aria-hidden="true"
                      className={`shrink-0 mt-0.5 ${kind === 'held' || kind === 'failed' ? 'text-error' : 'text-warning'}`}
                    />
                    <span>
                      {count > 0 && (
                        <strong>
                          {count} {kind === 'route' ? (count === 1 ? 'blocker' : 'blockers') : kind}
                          {' · '}
                        </strong>
                      )}
                      {text}
                    </span>
                  </NeedLine>
                </li>
              );
            })}
          </ul>
        )}
      </section>
    </div>
  );
}

/** What needs somebody leads to where it is mended, where that is in here. */
function NeedLine({ link, children }: { link: string; children: ReactNode }) {
  if (link === '') return <div className="flex gap-3 px-3 py-2.5">{children}</div>;
  return (
    <Link to={link} className="flex gap-3 px-3 py-2.5 hover:bg-base-200">
      {children}
    </Link>
  );
}

const JUST_IN_ROWS = 10;

/** The newest submissions: whether the one just made as a test has come through is seen here. */
function JustIn() {
  const submissions = useSubmissions({});
  const rows = submissions.data?.pages[0]?.rows.slice(0, JUST_IN_ROWS) ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-labelledby="just-in" className="mt-8">
      <h2 id="just-in" className="text-lg font-semibold mb-1">
        Just in
      </h2>
      <div className="overflow-x-auto">
        <SubmissionTable rows={rows} />
      </div>
      <Link to="/activity" className="plain-link inline-block mt-2">
        All submissions
      </Link>
    </section>
  );
}
