import { dequal } from 'dequal';
import { answersOf, type FieldValues, type SourceField, type TypeName } from '../../values/index.ts';
import type { DestinationField } from '../destination.ts';
import { takesAny } from '../takesAny.ts';
import { plainLine, type MapLine } from '../mapping.ts';
import { chainOf, type ToldStep } from '../steps/index.ts';
import { READY } from '../steps/ready.ts';
import { matchAnswers } from './answers.ts';
import { assign } from './assign.ts';
import { fits } from './fits.ts';
import { likeness } from './likeness.ts';
import { readingsOf, type NamedField, type Reading } from './meaning.ts';
import { labelOf, originsOf, saysOf, type Origin } from './origins.ts';
import { folded } from './words.ts';

/** Two fields that were mapped to each other elsewhere, by their labels, with the steps between them. */
export interface MappedBefore {
  from: string;
  to: string;
  steps: ToldStep[];
}

/** What helps to tell beside the fields themselves. */
export interface SuggestFacts {
  /** Submissions of the source, whose values show what its fields hold. */
  samples?: FieldValues[];
  /** What was mapped in other routes. */
  before?: MappedBefore[];
}

/** A line that could be, how sure it is, and why. */
export interface Suggestion {
  line: MapLine;
  /** From 0 to 1. */
  confidence: number;
  /** Whether it is sure enough to be filled in by itself; otherwise it is offered. */
  applies: boolean;
  /** In words, the strongest first. */
  because: string[];
}

/** From here on a suggestion is filled in by itself; below, it is offered. */
export const APPLIED_FROM = 0.75;
/** Below this, nothing is said. */
export const OFFERED_FROM = 0.45;

interface Fit {
  score: number;
  because: string[];
}

/**
 * Proposes a line for each destination field that a source field fits; never for one already mapped. Every source field goes to one
 * destination field, and the whole fits as well as it can.
 */
export function suggestLines(
  source: SourceField[],
  fields: DestinationField[],
  existing: MapLine[],
  facts: SuggestFacts = {},
): Suggestion[] {
  const done = new Set(existing.map((line) => line.to));
  const open = fields.filter((field) => !field.ours && !done.has(field.key));
  const origins = originsOf(source, facts.samples ?? []);
  // All fields there are read together, also those that are mapped: one tells what another means.
  const named = new Map(fields.map((field) => [field, namedThere(field)]));
  const readings = readingsOf([...named.values()]);
  const there = open.map((field) => ({ field, readings: readings.get(named.get(field) as NamedField) ?? [] }));
  const table = origins.map((origin) => there.map((one) => fitOf(origin, one, { origins, there, facts })));
  const pairs = assign(table.map((row) => row.map(({ score }) => (score >= OFFERED_FROM ? score : 0))));
  const bestOf = new Map(pairs.map(([row, column]) => [row, table[row]?.[column]?.score ?? 0]));
  return pairs
    .flatMap(([row, column]): Suggestion[] => {
      const origin = origins[row];
      const field = there[column]?.field;
      const fit = table[row]?.[column];
      if (!origin || !field || !fit) return [];
      const rival = rivalOf(column, row, { table, bestOf, origins, score: fit.score });
      const confidence = Math.min(rival ? RIVALLED : 1, fit.score);
      const line = plainLine({
        id: lineId(field.key),
        to: field.key,
        from: origin.from,
        steps: chainOf(...(beforeOf(origin, field, facts)?.steps ?? chainFor(origin, field))),
      });
      const because = [...fit.because, ...(rival ? [`“${rival}” would fit as well`] : [])];
      const isSure = confidence >= APPLIED_FROM && (isSameThing(origin, field) || !isPermission(origin, field));
      return [{ line, confidence, applies: isSure && carries(origin, field, line), because }];
    })
    .sort((a, b) => open.findIndex(({ key }) => key === a.line.to) - open.findIndex(({ key }) => key === b.line.to));
}

/** A yes or no may be somebody's consent, or what became of it: it goes by itself only where both sides are called the same. */
const isPermission = (origin: Origin, field: DestinationField): boolean =>
  origin.type === 'yes/no' || field.type === 'yes/no';
const isSameThing = ({ fields: [own], made }: Origin, field: DestinationField): boolean =>
  made === '' && own !== undefined && folded(own.label).trim() === folded(field.label).trim();

/** Whether something of the kind that comes would be taken there as the line hands it on: what never would is not filled in. */
const carries = ({ type, fields: [own] }: Origin, field: DestinationField, { steps }: MapLine): boolean =>
  steps.length > 0 || own?.type !== type || takesAny(field, type, own);

/** The id of a line that is made for a destination field. */
export const lineId = (to: string): string => `l-${to}`;

const namedThere = ({ key, label, type, choices }: DestinationField): NamedField => ({
  key,
  label,
  type,
  answers: choices,
  keepAs: '',
});

interface There {
  field: DestinationField;
  readings: Reading[];
}

const AS_BEFORE = 0.97;
const ONLY_ADDRESS = 0.9;
const SAME_NAME = 1;
/** What comes only sometimes is the less likely for what is always needed there. */
const OPTIONAL_FOR_REQUIRED = 0.98;

function fitOf(
  origin: Origin,
  { field, readings }: There,
  { origins, there, facts }: { origins: Origin[]; there: There[]; facts: SuggestFacts },
): Fit {
  const typed = choiceFit(origin, field) ?? fits(origin.type, field.type);
  if (typed === 0) return { score: 0, because: [] };
  const like = likeness(origin.readings, readings);
  const own = origin.made === '' ? origin.fields[0] : undefined;
  const isSame = own !== undefined && folded(own.label).trim() === folded(field.label).trim();
  const isBefore = beforeOf(origin, field, facts) !== undefined;
  const isOnly = isOnlyAddress(origin, field, { origins, there });
  const name = Math.max(
    like.score * origin.worth,
    isSame && !isBlank(field.label) ? SAME_NAME : 0,
    isBefore ? AS_BEFORE : 0,
    isOnly && like.shared.includes('email') && !saysOf(origin.readings, 'somebody else') ? ONLY_ADDRESS : 0,
  );
  const isRisky = field.required && own !== undefined && !own.required;
  return {
    score: name * typed * (isRisky ? OPTIONAL_FOR_REQUIRED : 1),
    because: [
      ...(isBefore ? ['mapped so in another route'] : []),
      ...(origin.made === '' ? [] : [origin.made]),
      ...(isSame ? ['the same name on both sides'] : sharedInWords(like.shared)),
      ...(isOnly ? ['the only email address on both sides'] : []),
      ...(own && origin.type !== own.type ? [`its values look like ${LOOKS[origin.type] ?? origin.type}`] : []),
      ...(typed < 0.9 ? [`${origin.type} goes into ${field.type} only if it fits`] : []),
      ...(isRisky ? ['it is required there, and may be empty here'] : []),
    ],
  };
}

/** The line of another route from a field of that name to one of that name; made of a part of it only where that one was. */
function beforeOf(
  { fields: [own, other], made, steps }: Origin,
  field: DestinationField,
  { before = [] }: SuggestFacts,
): MappedBefore | undefined {
  if (!own || other) return undefined;
  return before.find(
    (one) =>
      folded(one.from) === folded(own.label) &&
      folded(one.to) === folded(field.label) &&
      (made === '' || dequal(one.steps, steps)),
  );
}

const LOOKS: Partial<Record<TypeName, string>> = {
  email: 'email addresses',
  URL: 'addresses of pages',
  date: 'dates',
  'date-time': 'dates with times',
};

const isBlank = (label: string): boolean => label.trim() === '';

function sharedInWords(shared: string[]): string[] {
  const own = shared.filter((sense) => sense.startsWith('=')).map((sense) => `“${sense.slice(1)}”`);
  const meant = shared.filter((sense) => !sense.startsWith('=') && sense !== 'label of it');
  return [
    ...(meant.length > 0 ? [`both are about: ${meant.join(', ')}`] : []),
    ...(own.length > 0 ? [`both say ${own.join(' and ')}`] : []),
  ];
}

function isOnlyAddress(
  origin: Origin,
  field: DestinationField,
  { origins, there }: { origins: Origin[]; there: There[] },
): boolean {
  const isAddress = ({ type }: { type: TypeName }) => type === 'email';
  return (
    origin.made === '' &&
    isAddress(origin) &&
    isAddress(field) &&
    origins.filter(isAddress).length === 1 &&
    there.filter((one) => isAddress(one.field)).length === 1
  );
}

/** How well the answers of a choice go with the choices there; null where one of both is no choice. */
function choiceFit({ fields: [own], made }: Origin, field: DestinationField): number | null {
  if (made !== '' || !own || field.choices.length === 0) return null;
  const answers = answersOf(own);
  if (answers.length === 0) return null;
  const found = matchAnswers(answers, choicesOf(field));
  const known = found.reduce((sum, { confidence }) => sum + confidence, 0) / answers.length;
  // Names may still say that they belong together: the rest of the table is then written by hand.
  return Math.max(0.7, known);
}

const choicesOf = ({ choices }: DestinationField) => choices.map((name) => ({ id: name, name }));

/** The steps that make what comes into what the field takes. */
function chainFor({ fields: [own], type, steps, made }: Origin, field: DestinationField): ToldStep[] {
  if (made !== '' || !own) return steps ?? [];
  const into = field.type;
  if (type === 'email') return [READY.trim, READY.lowerCase];
  if (own.type === 'yes/no' && (into === 'number' || into === 'text')) return [READY.oneOrZero];
  if (own.type === 'money' && into === 'number') return [READY.amount];
  const answers = answersOf(own);
  if (answers.length > 0 && field.choices.length > 0) return lookUpFor(answers, field);
  return own.type === 'text' || own.type === 'long text' ? [READY.trim] : [];
}

/** A table from answers to choices, unless they are the same. What matches nothing is left open, and checked before going live. */
function lookUpFor(answers: string[], field: DestinationField): ToldStep[] {
  const pairs = matchAnswers(answers, choicesOf(field))
    .filter(({ answer, id }) => answer !== id)
    .map(({ answer, id }): [string, string] => [answer, id]);
  return pairs.length === 0 ? [] : [{ kind: 'look-up', options: { pairs } }];
}

/** The most that a suggestion is sure of where another would fit as well: it is offered. */
const RIVALLED = 0.7;
const CLOSE = 0.06;

/** Another field that would fit as well and has nothing better to do; '' where there is none. */
function rivalOf(
  column: number,
  row: number,
  { table, bestOf, origins, score }: { table: Fit[][]; bestOf: Map<number, number>; origins: Origin[]; score: number },
): string {
  const own = origins[row];
  const at = table.findIndex((fitsOfRow, other) => {
    const rival = fitsOfRow[column]?.score ?? 0;
    const isOther = other !== row && !origins[other]?.fields.some((field) => own?.fields.includes(field));
    return isOther && rival >= score - CLOSE && rival > (bestOf.get(other) ?? 0);
  });
  return at < 0 ? '' : labelOf(origins[at] as Origin);
}
