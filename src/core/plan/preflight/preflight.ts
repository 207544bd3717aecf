import { fieldsAskedFor } from '../../conditions/index.ts';
import type { Purpose } from '../../consent/index.ts';
import { identifyingFields } from '../../identity/index.ts';
import type { SourceDocument } from '../../intake/index.ts';
import { fieldsUsed, fieldsUsedIn } from '../../mapping/index.ts';
import { isTick, type SourceField } from '../../values/index.ts';
import type { Catalogue } from '../catalogue.ts';
import { conditionsIn, type RouteDocument } from '../route.ts';
import { ALL_ANSWERS } from '../mailing.ts';
import { linesOf, type OtherRoute } from './check.ts';
import { CHECKS } from './checks/index.ts';
import { consentFindings } from './consent.ts';
import { blocker, hint, type Finding } from './finding.ts';
import { mailFindings } from './mails.ts';
import { targetFindings } from './target.ts';

export interface PreflightInput {
  document: RouteDocument;
  /** Its sources as they are live; null for one that is not. */
  sources: { name: string; live: SourceDocument | null }[];
  catalogues: Record<string, Catalogue>;
  purposes: Purpose[];
  /** What may be known of people, as fields. */
  knowledge: SourceField[];
  /** The other routes that are live. */
  others: (OtherRoute & { id: string })[];
}

/** Checks a route before it goes live, blockers first. */
export function preflight({ document, sources, catalogues, purposes, knowledge, others }: PreflightInput): Finding[] {
  if (sources.length === 0) return [blocker('source', 'No source is chosen.', 'Choose where submissions come from.')];
  // Until a source is live, everything else would only be guessed.
  const asleep = sources.filter(({ live }) => live === null);
  if (asleep.length > 0)
    return asleep.map(({ name }) =>
      blocker(
        'source',
        `${sources.length > 1 ? `"${name}"` : 'The source'} is not live yet.`,
        'Publish the source first.',
      ),
    );
  const rivals = others.filter((other) => other.document.sourceIds.some((id) => document.sourceIds.includes(id)));
  const each = sources.flatMap(({ name, live }) =>
    live === null
      ? []
      : [{ name, findings: findingsFor(document, live, { catalogues, purposes, knowledge, others: rivals }) }],
  );
  const isSame = (a: Finding) => (b: Finding) => JSON.stringify(a) === JSON.stringify(b);
  // What is so for every source is said once; what is so for some, with their names.
  const all = each.flatMap(({ name, findings }, index) =>
    findings.flatMap((finding) => {
      const everywhere = each.every((other) => other.findings.some(isSame(finding)));
      if (everywhere) return index === 0 ? [finding] : [];
      return [{ ...finding, message: `From "${name}": ${finding.message}` }];
    }),
  );
  const order = { blocker: 0, warning: 1, hint: 2 };
  return all.sort((a, b) => order[a.level] - order[b.level]);
}

function findingsFor(
  document: RouteDocument,
  source: SourceDocument,
  { catalogues, purposes, knowledge, others }: Pick<PreflightInput, 'catalogues' | 'purposes' | 'knowledge' | 'others'>,
): Finding[] {
  const { fields } = source;
  const findings = [
    ...consentFindings(document, source, { catalogues, purposes }),
    ...mailFindings(document, source, knowledge),
  ];
  if (identifyingFields(fields).length === 0) {
    findings.push(
      blocker(
        'source',
        'Nothing in the source says who somebody is.',
        'Add an email field to the source, or keep its phone or id as such, and publish it.',
      ),
    );
  }
  if (document.targets.length === 0) findings.push(blocker('target', 'It leads nowhere yet.', 'Choose a connection.'));
  document.targets.forEach((target, index) => {
    const own = targetFindings(target, catalogues[target.connectionId], { fields, knowledge });
    findings.push(...own.map((finding) => ({ ...finding, target: index })));
  });
  const checked = { document, source, catalogues, others, lines: linesOf(document, { source, catalogues }) };
  const found = CHECKS.flatMap(({ code, level, why, find }) =>
    find(checked).map((one): Finding => ({ level, code, why, ...one })),
  );
  return [...findings, ...found, ...unusedFindings(document, fields)];
}

/** Answers that go to none of the targets. */
function unusedFindings({ targets, mails }: RouteDocument, fields: SourceField[]): Finding[] {
  const used = new Set(
    targets.flatMap((target) => [...target.lines.flatMap(fieldsUsed), ...conditionsIn(target).flatMap(fieldsAskedFor)]),
  );
  for (const { subject, body, when } of mails) {
    for (const id of [...fieldsUsedIn(subject), ...fieldsUsedIn(body)]) used.add(id);
    for (const id of when ? fieldsAskedFor(when) : []) used.add(id);
  }
  if (mails.some(({ body }) => body.includes(ALL_ANSWERS))) return [];
  return fields
    .filter((field) => !isTick(field) && targets.length > 0 && !used.has(field.id))
    .map(({ label }) =>
      hint('mapping', `${label} goes nowhere: its answers stay in Iwashi.`, 'Map it, or leave it if that is meant.'),
    );
}
