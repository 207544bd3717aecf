import type { Purpose } from '../../consent/index.ts';
import type { SourceDocument } from '../../intake/index.ts';
import type { FieldValues, SourceField } from '../../values/index.ts';
import type { Catalogue } from '../catalogue.ts';
import type { RouteDocument } from '../route.ts';
import { linesOf, type Checked, type CheckedConnection, type Flow, type OtherRoute } from './check.ts';
import { CHECKS } from './checks/index.ts';
import type { Finding } from './finding.ts';

/** A source of a route, with what has come through it of late. */
export interface PreflightSource {
  name: string;
  /** As it is live; null for one that is not. */
  live: SourceDocument | null;
  isChanged: boolean;
  samples: FieldValues[];
  pace: number;
}

export interface PreflightInput {
  document: RouteDocument;
  sources: PreflightSource[];
  catalogues: Record<string, Catalogue>;
  connections: Record<string, CheckedConnection>;
  purposes: Purpose[];
  /** What may be known of people, as fields. */
  knowledge: SourceField[];
  /** The other routes that are live. */
  others: (OtherRoute & { id: string })[];
  /** By which people know whoever asks. */
  names: string[];
  now: number;
}

const source = (code: string, message: string, fix: string): Finding => ({
  level: 'blocker',
  code,
  part: 'source',
  message,
  fix,
  why: 'Until something comes, everything else would only be guessed.',
});

/** Checks a route before it goes live, blockers first. */
export function preflight({ document, sources, others, ...known }: PreflightInput): Finding[] {
  if (sources.length === 0) return [source('no source', 'No source is chosen.', 'Choose where submissions come from.')];
  const asleep = sources.filter(({ live }) => live === null);
  if (asleep.length > 0)
    return asleep.map(({ name }) =>
      source(
        'the source is not live',
        `${sources.length > 1 ? `"${name}"` : 'The source'} is not live yet.`,
        'Publish the source first.',
      ),
    );
  const rivals = others.filter((other) => other.document.sourceIds.some((id) => document.sourceIds.includes(id)));
  const flows = others.flatMap(({ name, document: other }) => flowsOf(name, other, known.connections));
  const each = sources.flatMap(({ name, live, isChanged, samples, pace }) => {
    if (live === null) return [];
    const lines = linesOf(document, { source: live, samples, catalogues: known.catalogues, now: known.now });
    const checked = {
      ...known,
      document,
      source: live,
      isSourceChanged: isChanged,
      samples,
      pace,
      others: rivals,
      everywhere: others,
      flows,
      lines,
    };
    const findings = findingsFor(checked);
    return [{ name, findings, said: new Set(sources.length > 1 ? findings.map((one) => JSON.stringify(one)) : []) }];
  });
  // What is so for every source is said once; what is so for some, with their names.
  const all = each.flatMap(({ name, findings }, index) =>
    findings.flatMap((finding) => {
      const text = each.length > 1 ? JSON.stringify(finding) : '';
      if (each.every(({ said }) => each.length === 1 || said.has(text))) return index === 0 ? [finding] : [];
      return [{ ...finding, message: `From "${name}": ${finding.message}` }];
    }),
  );
  const order = { blocker: 0, warning: 1, hint: 2 };
  return all.map((finding) => withReason(finding, document)).sort((a, b) => order[a.level] - order[b.level]);
}

const flowsOf = (
  route: string,
  { sourceIds, targets }: RouteDocument,
  connections: Record<string, CheckedConnection>,
): Flow[] =>
  targets.flatMap(({ connectionId }) => {
    const to = connections[connectionId]?.leadsTo ?? null;
    return to === null ? [] : sourceIds.map((from) => ({ route, from, to }));
  });

const findingsFor = (checked: Checked): Finding[] =>
  CHECKS.flatMap(({ code, level, why, find }) => find(checked).map((one): Finding => ({ level, code, why, ...one })));

/** By what a finding is known again when it is accepted: what it says, in this route. */
export const findingKey = ({ code, message }: Pick<Finding, 'code' | 'message'>): string => `${code}: ${message}`;

/** A warning that somebody lets stand has their reason; a blocker cannot be. */
function withReason(finding: Finding, { accepted }: RouteDocument): Finding {
  const reason = finding.level === 'blocker' ? undefined : accepted[findingKey(finding)];
  return reason === undefined ? finding : { ...finding, accepted: reason };
}
