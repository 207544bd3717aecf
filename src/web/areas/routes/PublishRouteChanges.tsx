import type { RouteView } from '../../../contract/route.ts';
import { routeChanges, type RouteDocument, type RouteNames } from '../../../core/plan/index.ts';
import { useRouteVersion } from '../../data/routes.ts';
import { PublishOrCancel } from '../../parts/PublishOrCancel.tsx';
import { Loaded } from '../../parts/States.tsx';

interface PublishRouteChangesProps {
  route: RouteView;
  draft: RouteDocument;
  called: RouteNames;
  onPublish: () => void;
  onCancel: () => void;
}

/** Before changes of a live route go live: everything that is different for people and destinations from then on. */
export function PublishRouteChanges({ route, draft, called, onPublish, onCancel }: PublishRouteChangesProps) {
  const live = useRouteVersion(route.id, route.liveVersion);
  return (
    <div className="flex flex-col gap-4">
      <Loaded query={live}>
        {(before) => {
          const changes = routeChanges(before, draft, called);
          return (
            <>
              <ul className="list-disc pl-5 flex flex-col gap-1" aria-label="What changes">
                {changes.length === 0 ? <li>Nothing.</li> : changes.map((text) => <li key={text}>{text}</li>)}
              </ul>
              <p className="text-muted">
                It holds for whatever comes from then on. What came before goes on as it was planned, until somebody has
                it sent again.
              </p>
            </>
          );
        }}
      </Loaded>
      <PublishOrCancel disabled={!live.data} onPublish={onPublish} onCancel={onCancel} />
    </div>
  );
}
