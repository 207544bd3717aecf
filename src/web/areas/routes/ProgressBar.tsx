import type { RouteView } from '../../../contract/route.ts';
import type { RouteDocument } from '../../../core/plan/index.ts';
import { tasksOf } from './progress.ts';
import type { RoutePart } from './routeParts.ts';

/** How far a route is, and what comes next; gone once it is live and proved. */
export function ProgressBar({
  route,
  document,
  onShow,
}: {
  route: RouteView;
  document: RouteDocument;
  onShow: (part: RoutePart) => void;
}) {
  const tasks = tasksOf(document, route);
  const next = tasks.find(({ isDone }) => !isDone);
  const done = tasks.filter(({ isDone }) => isDone).length;
  if (!next || route.liveVersion !== null) return null;
  const { part } = next;
  return (
    <div className="px-4 py-1 border-b border-base-300 flex items-center gap-3">
      <progress
        className="progress progress-primary w-24"
        value={done}
        max={tasks.length}
        aria-label="How far the route has come"
      />
      <p className="text-sm">
        {done} of {tasks.length} done. Next:{' '}
        {part ? (
          <button className="plain-link py-0.5" onClick={() => onShow(part)}>
            {next.text}
          </button>
        ) : (
          <strong>{next.text}</strong>
        )}
      </p>
    </div>
  );
}
