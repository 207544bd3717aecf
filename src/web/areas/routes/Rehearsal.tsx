import type { RouteView } from '../../../contract/route.ts';
import type { Visit } from '../../../core/intake/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { Failed } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { PlanView } from '../activity/PlanView.tsx';
import { useRehearsal } from '../../data/routes.ts';

/** What would happen to the sample, and what keeps the route from going live. */
export function Rehearsal({
  route,
  sourceId,
  values,
  visit,
}: {
  route: RouteView;
  /** Of which the sample is. */
  sourceId: string;
  values: FieldValues | null;
  visit: Visit;
}) {
  const rehearsal = useRehearsal(route, { sourceId, values, visit });
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-2">Preflight</h2>
        {route.findings.length === 0 ? (
          <p className="text-success">Nothing stands in the way.</p>
        ) : (
          <ul className="flex flex-col gap-2">
            {route.findings.map(({ level, message, fix, target }) => (
              <li key={`${target} ${message}`}>
                <StateMark state={level} />{' '}
                {target !== undefined && route.targetNames.length > 1 && `${route.targetNames[target] ?? 'Target'}: `}
                {message} <span className="text-quiet">{fix}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
      <section aria-live="polite">
        <h2 className="font-semibold text-lg">Rehearsal</h2>
        <p className="text-quiet text-sm mb-2">What the draft would do with the sample. Nothing is sent or changed.</p>
        {rehearsal.isError ? (
          <Failed error={rehearsal.error} again={() => void rehearsal.refetch()} />
        ) : rehearsal.data ? (
          <PlanView plan={rehearsal.data.plan} names={rehearsal.data.names} />
        ) : (
          <p className="text-quiet">Computing</p>
        )}
      </section>
    </div>
  );
}
