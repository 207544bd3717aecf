import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import type { Visit } from '../../../core/intake/index.ts';
import { stepInWords } from '../../../core/mapping/index.ts';
import type { Finding, RouteDocument } from '../../../core/plan/index.ts';
import type { FieldValues } from '../../../core/values/index.ts';
import { Failed } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { PlanView } from '../activity/PlanView.tsx';
import { useRehearsal } from '../../data/routes.ts';
import { LiveRehearsal } from './LiveRehearsal.tsx';
import { LookThere } from './LookThere.tsx';
import { partOfFinding, targetNames, type RoutePart } from './routeParts.ts';

/** What would happen to the sample, and what keeps the route from going live. */
export function Rehearsal({
  route,
  document,
  connections,
  isUnsaved,
  sourceId,
  values,
  visit,
  onGo,
  onMend,
}: {
  route: RouteView;
  /** As it is being edited. */
  document: RouteDocument;
  connections: ConnectionView[];
  isUnsaved: boolean;
  /** Of which the sample is. */
  sourceId: string;
  values: FieldValues | null;
  visit: Visit;
  /** Leads to where a finding is mended. */
  onGo: (part: RoutePart, line?: string) => void;
  /** Puts a step at the end of a line. */
  onMend: (finding: Finding) => void;
}) {
  const names = targetNames({ ...route, draft: document });
  const sample = { sourceId, values, visit };
  const rehearsal = useRehearsal(route, sample);
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-2">Preflight</h2>
        {route.findings.length === 0 ? (
          <p className="text-success">Nothing stands in the way.</p>
        ) : (
          <ul className="flex flex-col gap-2">
            {route.findings.map((finding) => (
              <li key={`${finding.target} ${finding.message}`}>
                <StateMark state={finding.level} />{' '}
                {finding.target !== undefined && names.length > 1 && `${names[finding.target] ?? 'Target'}: `}
                {finding.message}{' '}
                <button
                  className="plain-link text-left"
                  onClick={() => onGo(partOfFinding(finding, document), finding.line)}
                >
                  {finding.fix}
                </button>
                {finding.mend && (
                  <button className="btn btn-xs ml-1" onClick={() => onMend(finding)}>
                    Add {stepInWords(finding.mend)}
                  </button>
                )}
                {finding.why !== '' && (
                  <details className="text-sm text-quiet">
                    <summary className="cursor-pointer">Why this matters</summary>
                    {finding.why}
                  </details>
                )}
              </li>
            ))}
          </ul>
        )}
      </section>
      <LiveRehearsal route={route} connections={connections} sample={sample} isUnsaved={isUnsaved} />
      <section aria-live="polite">
        <h2 className="font-semibold text-lg">Rehearsal</h2>
        <p className="text-quiet text-sm mb-2">What the draft would do with the sample. Nothing is sent or changed.</p>
        {rehearsal.isError ? (
          <Failed error={rehearsal.error} again={() => void rehearsal.refetch()} />
        ) : rehearsal.data ? (
          <PlanView
            plan={rehearsal.data.plan}
            names={rehearsal.data.names}
            beside={(targetId) => <LookThere routeId={route.id} targetId={targetId} sample={sample} />}
          />
        ) : (
          <p className="text-quiet">Computing</p>
        )}
      </section>
    </div>
  );
}
