import { typeAfterAll, type DestinationField, type MapLine, type ToldStep } from '../../mapping/index.ts';
import { factFields, type SourceDocument } from '../../intake/index.ts';
import type { SourceField, TypeName } from '../../values/index.ts';
import { fieldsFor, type Catalogue } from '../catalogue.ts';
import type { RouteDocument } from '../route.ts';
import type { Finding } from './finding.ts';

/** Another live route that takes one of the same sources. */
export interface OtherRoute {
  name: string;
  document: RouteDocument;
}

/** What a check looks at: a route with one of its sources as that is live. */
export interface Checked {
  document: RouteDocument;
  source: SourceDocument;
  catalogues: Record<string, Catalogue>;
  others: OtherRoute[];
  /** Its lines, found once for all checks. */
  lines: CheckedLine[];
}

/** What a check found; the rest of the finding is the check's own. */
export type Found = Omit<Finding, 'level' | 'code' | 'why'>;

/** One check of a route before it goes live. */
export interface Check {
  /** By which a finding is counted, accepted and tested. */
  code: string;
  level: Finding['level'];
  /** Why it matters, for whoever asks. */
  why: string;
  find: (checked: Checked) => Found[];
}

/** A line of a target with what is known of both its ends. */
export interface CheckedLine {
  /** Of which target, counted from 0. */
  target: number;
  line: MapLine;
  /** There. */
  field: DestinationField;
  /** Where it comes from, if that is one field of the source. */
  from: SourceField | null;
  /** The type of what comes out of its steps; null where the chain does not meet, or where it comes from is no field. */
  type: TypeName | null;
}

/** A check of lines one by one: what is found is found at the line. */
export const lineCheck = (
  check: Omit<Check, 'find'> & { find: (line: CheckedLine) => Omit<Found, 'part' | 'target' | 'line'>[] },
): Check => ({
  ...check,
  find: ({ lines }) =>
    lines.flatMap((line) =>
      check.find(line).map((found) => ({ ...found, part: 'mapping', target: line.target, line: line.field.key })),
    ),
});

/** The lines of a route whose fields are there. */
export function linesOf(
  { targets }: RouteDocument,
  { catalogues, source }: Pick<Checked, 'catalogues' | 'source'>,
): CheckedLine[] {
  const known = factFields(source.fields);
  return targets.flatMap((target, index) => {
    const catalogue = catalogues[target.connectionId];
    const destination = catalogue ? fieldsFor(catalogue, target) : [];
    return target.lines.flatMap((line): CheckedLine[] => {
      const field = destination.find(({ key }) => key === line.to);
      if (!field) return [];
      const id = line.from.kind === 'field' ? line.from.field : null;
      const from = known.find((one) => one.id === id) ?? null;
      return [{ target: index, line, field, from, type: from && typeAfterAll(from.type, line.steps) }];
    });
  });
}

/** Whether a line has a step of a kind. */
export const hasStep = ({ line }: CheckedLine, ...kinds: ToldStep['kind'][]): boolean =>
  line.steps.some(({ kind }) => kinds.includes(kind));

/** Things in quotation marks, as in a sentence. */
export const quoted = (texts: string[]): string => texts.map((text) => `"${text}"`).join(', ');
