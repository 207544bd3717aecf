import type { ConnectionView } from '../../../contract/connection.ts';
import type { RouteView } from '../../../contract/route.ts';
import { findingKey, type Finding, type RouteDocument } from '../../../core/plan/index.ts';
import { SUSPICIONS } from '../../parts/suspicions.ts';
import { Failed } from '../../parts/States.tsx';
import { PlanView } from '../activity/PlanView.tsx';
import { useRehearsal, type Rehearsed } from '../../data/routes.ts';
import { FindingItem } from './FindingItem.tsx';
import { LiveRehearsal } from './LiveRehearsal.tsx';
import { LookThere } from './LookThere.tsx';
import { partOfFinding, targetNames, type RoutePart } from './routeParts.ts';

/** What would happen to the sample, and what keeps the route from going live. */
export function Rehearsal({
  route,
  document,
  connections,
  isUnsaved,
  sample,
  onGo,
  onMend,
  onAccept,
}: {
  route: RouteView;
  /** As it is being edited. */
  document: RouteDocument;
  connections: ConnectionView[];
  isUnsaved: boolean;
  sample: Rehearsed;
  /** Leads to where a finding is mended. */
  onGo: (part: RoutePart, line?: string) => void;
  /** Puts a step at the end of a line. */
  onMend: (finding: Finding) => void;
  /** Lets a finding stand, for a reason; null takes that back. */
  onAccept: (finding: Finding, reason: string | null) => void;
}) {
  const open = route.findings.filter(({ accepted: reason }) => reason === undefined);
  const accepted = route.findings.filter((finding) => !open.includes(finding));
  const names = targetNames({ ...route, draft: document });
  const rehearsal = useRehearsal(route, sample);
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-2">Preflight</h2>
        {open.every(({ level }) => level === 'hint') && <p className="text-success mb-1">Nothing stands in the way.</p>}
        <ul className="flex flex-col gap-2">
          {[...open, ...accepted].map((finding) => (
            <FindingItem
              key={`${finding.target} ${findingKey(finding)}`}
              finding={finding}
              targetName={
                finding.target !== undefined && names.length > 1 ? `${names[finding.target] ?? 'Target'}: ` : ''
              }
              onGo={() => onGo(partOfFinding(finding, document), finding.line)}
              onMend={() => onMend(finding)}
              onAccept={(reason) => onAccept(finding, reason)}
            />
          ))}
        </ul>
      </section>
      <LiveRehearsal route={route} connections={connections} sample={sample} isUnsaved={isUnsaved} />
      <section aria-live="polite">
        <h2 className="font-semibold text-lg">Rehearsal</h2>
        <p className="text-muted text-sm mb-2">What the draft would do with the sample. Nothing is sent or changed.</p>
        {rehearsal.isError ? (
          <Failed error={rehearsal.error} again={() => void rehearsal.refetch()} />
        ) : rehearsal.data ? (
          <>
            {rehearsal.data.suspicion && (
              <p className="box p-2 mb-3">
                It would be set aside, since {SUSPICIONS[rehearsal.data.suspicion]}: nothing is done with it until
                somebody releases it. What would happen then:
              </p>
            )}
            <PlanView
              plan={rehearsal.data.plan}
              names={rehearsal.data.names}
              beside={(targetId) => <LookThere routeId={route.id} targetId={targetId} sample={sample} />}
            />
          </>
        ) : (
          <p className="text-muted">Computing</p>
        )}
      </section>
    </div>
  );
}
