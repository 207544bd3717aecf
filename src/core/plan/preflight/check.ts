import type { Purpose } from '../../consent/index.ts';
import { factFields, type SourceDocument } from '../../intake/index.ts';
import { startType, typeAfterAll, type DestinationField, type MapLine, type ToldStep } from '../../mapping/index.ts';
import type { ConnectionState } from '../../states/index.ts';
import type { FieldValues, SourceField, TypeName } from '../../values/index.ts';
import { wordingOf } from '../asking.ts';
import { fieldsFor, listsOf, type Catalogue, type CatalogueList } from '../catalogue.ts';
import type { ConsentAsk, RouteDocument, RouteMail, Target } from '../route.ts';
import type { Finding } from './finding.ts';

/** Another live route that takes one of the same sources. */
export interface OtherRoute {
  name: string;
  document: RouteDocument;
}

/** What is known of a connection beside what it offers. */
export interface CheckedConnection {
  name: string;
  state: ConnectionState;
  /** When what it offers was fetched, in milliseconds since 1970; null for never. */
  catalogueAt: number | null;
  /** How many deliveries it takes a minute; null where it does not say. */
  perMinute: number | null;
  /** The source of this very installation that its address is; null where it is somebody else's. */
  leadsTo: string | null;
  /** What was wrong when it was last checked, and which permissions its access lacked; null when all was well. */
  trouble: { problem: string; nextStep: string; lacks: string[] } | null;
}

/** What a live route carries from one source of this installation into another one of it. */
export interface Flow {
  route: string;
  /** Ids of sources. */
  from: string;
  to: string;
}

/** What a check looks at: a route with one of its sources as that is live. */
export interface Checked {
  document: RouteDocument;
  source: SourceDocument;
  /** Whether its draft is another one than what is live. */
  isSourceChanged: boolean;
  /** What came of late, the newest first. */
  samples: FieldValues[];
  /** How many came in the busiest minute of the last day. */
  pace: number;
  catalogues: Record<string, Catalogue>;
  connections: Record<string, CheckedConnection>;
  purposes: Purpose[];
  /** What may be known of people, as fields. */
  knowledge: SourceField[];
  others: OtherRoute[];
  /** Every other live route, whatever it takes. */
  everywhere: OtherRoute[];
  /** What the other live routes carry from one source into another, whatever their sources. */
  flows: Flow[];
  /** By which people know whoever asks. */
  names: string[];
  /** Its lines, found once for all checks. */
  lines: CheckedLine[];
  /** In milliseconds since 1970. */
  now: number;
}

/** What a check found; the rest of the finding is the check's own. */
export type Found = Omit<Finding, 'level' | 'code' | 'why' | 'accepted'>;

/** One check of a route before it goes live. */
export interface Check {
  /** By which a finding is counted, accepted and tested. */
  code: string;
  level: Finding['level'];
  /** Why it matters, for whoever asks. */
  why: string;
  find: (checked: Checked) => Found[];
}

type CheckRule = Omit<Check, 'find'>;

/** A line of a target with what is known of both its ends. */
export interface CheckedLine {
  /** Of which target, counted from 0. */
  target: number;
  targetOf: Target;
  catalogue: Catalogue;
  source: SourceDocument;
  samples: FieldValues[];
  now: number;
  line: MapLine;
  /** There. */
  field: DestinationField;
  /** Where it comes from, if that is one field of the source. */
  from: SourceField | null;
  /** The type of what its steps begin with; null where that is not known. */
  start: TypeName | null;
  /** The type of what comes out of its steps; null where the chain does not meet, or where it comes from is no field. */
  type: TypeName | null;
}

/** A check of lines one by one: what is found is found at the line. */
export const lineCheck = (
  check: CheckRule & { find: (line: CheckedLine) => Omit<Found, 'part' | 'target' | 'line'>[] },
): Check => ({
  ...check,
  find: ({ lines }) =>
    lines.flatMap((line) =>
      check.find(line).map((found) => ({ ...found, part: 'mapping', target: line.target, line: line.field.key })),
    ),
});

interface CheckedTarget extends Checked {
  target: Target;
  catalogue: Catalogue;
  connection: CheckedConnection | undefined;
}

/** A check of targets one by one, of those whose destination is known. */
export const targetCheck = (
  check: CheckRule & { find: (target: CheckedTarget) => Omit<Found, 'target'>[] },
): Check => ({
  ...check,
  find: (checked) =>
    checked.document.targets.flatMap((target, index) => {
      const catalogue = checked.catalogues[target.connectionId];
      if (!catalogue) return [];
      const connection = checked.connections[target.connectionId];
      return check.find({ ...checked, target, catalogue, connection }).map((found) => ({ ...found, target: index }));
    }),
});

interface CheckedAsk {
  ask: ConsentAsk;
  source: SourceDocument;
  /** null where there is none of that id. */
  purpose: Purpose | null;
  /** Whether the box that gives it is in the source, where one gives it. */
  hasBox: boolean;
  wording: string;
}

/** A check of the consents that a route asks for, one by one. */
export const askCheck = (
  check: CheckRule & { find: (ask: CheckedAsk) => Pick<Found, 'message' | 'fix'>[] },
): Check => ({
  ...check,
  find: ({ document, source, purposes }) =>
    document.consent.asks.flatMap((ask) => {
      const purpose = purposes.find(({ id }) => id === ask.purpose) ?? null;
      const hasBox =
        ask.tickField === '' || source.fields.some(({ id, type }) => id === ask.tickField && type === 'yes/no');
      return check
        .find({ ask, source, purpose, hasBox, wording: wordingOf(ask, source) })
        .map((found) => ({ ...found, part: 'consent' as const }));
    }),
});

/** A check of the mails of a route, one by one. */
export const mailCheck = (
  check: CheckRule & { find: (mail: Checked & { mail: RouteMail }) => Pick<Found, 'message' | 'fix'>[] },
): Check => ({
  ...check,
  find: (checked) =>
    checked.document.mails.flatMap((mail) =>
      check.find({ ...checked, mail }).map((found) => ({ ...found, part: 'mails' as const })),
    ),
});

/** Whether people confirm by a mail of ours. */
export const byIwashi = ({ document: { consent } }: Checked): boolean =>
  consent.asks.length > 0 && consent.confirmedBy.by === 'iwashi';

/** The lists that the targets of a route put people into. */
export const confirmingLists = ({
  document,
  catalogues,
}: Checked): { target: Target; index: number; list: CatalogueList }[] =>
  document.targets.flatMap((target, index) =>
    listsOf(catalogues[target.connectionId], target).map((list) => ({ target, index, list })),
  );

/** One place that people are taken out of. */
interface Leaving {
  list: string;
  group: string;
  /** What the service calls it, and what it is called. */
  word: string;
  name: string;
  /** Whether the service takes people out of such, and has it. */
  can: boolean;
  isThere: boolean;
}

/** What a target takes people out of. */
export const leaving = ({ target, catalogue: { lists, can } }: CheckedTarget): Leaving[] =>
  target.leaves.map(({ list: id, group }) => {
    const list = lists.find((candidate) => candidate.id === id);
    const inside = list?.groups.find((candidate) => candidate.id === group);
    return {
      list: id,
      group,
      word: group === '' ? can.calls.list : can.calls.group,
      name: inside?.name ?? list?.name ?? id,
      can: group === '' ? can.leavesLists : can.leavesGroups,
      isThere: list !== undefined && (group === '' || inside !== undefined),
    };
  });

/** The lines of a route whose fields are there. */
export function linesOf(
  { targets }: RouteDocument,
  { catalogues, source, samples, now }: Pick<Checked, 'catalogues' | 'source' | 'samples' | 'now'>,
): CheckedLine[] {
  const known = factFields(source.fields);
  return targets.flatMap((targetOf, target) => {
    const catalogue = catalogues[targetOf.connectionId];
    if (!catalogue) return [];
    const destination = fieldsFor(catalogue, targetOf);
    return targetOf.lines.flatMap((line): CheckedLine[] => {
      const field = destination.find(({ key }) => key === line.to);
      if (!field) return [];
      const id = line.from.kind === 'field' ? line.from.field : null;
      const from = known.find((one) => one.id === id) ?? null;
      const start = startType(line.from, known);
      const type = from && typeAfterAll(from.type, line.steps);
      return [{ target, targetOf, catalogue, source, samples, now, line, field, from, start, type }];
    });
  });
}

/** Whether a line has a step of a kind. */
export const hasStep = ({ line }: CheckedLine, ...kinds: ToldStep['kind'][]): boolean =>
  line.steps.some(({ kind }) => kinds.includes(kind));

/** Things in quotation marks, as in a sentence. */
export const quoted = (texts: string[]): string => texts.map((text) => `"${text}"`).join(', ');
