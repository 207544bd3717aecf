import { good, type Result } from '../../result.ts';
import { isEmpty, printValue, shapeOf, shapeOfType, type FieldValue, type TypeName } from '../../values/index.ts';
import { plainAscii, slug } from './ascii.ts';
import { changeCase } from './changeCase.ts';
import { cut } from './cut.ts';
import { readDate, timeBetween, writeDate } from './dates.ts';
import { hash } from './hash.ts';
import { count, joinList, splitList } from './lists.ts';
import { lookUp } from './lookUp.ts';
import { membershipPart } from './membership.ts';
import { makeMoney, moneyPart } from './money.ts';
import { joinName, namePart } from './names.ts';
import { readNumber, writeNumber } from './numbers.ts';
import { phoneFormat } from './phoneFormat.ts';
import { column, filter, pick, sum } from './records.ts';
import { replace } from './replace.ts';
import { stripHtml } from './stripHtml.ts';
import { trim } from './trim.ts';
import { urlPart } from './urlPart.ts';
import { yesNoWords } from './yesNoWords.ts';
import type { Pair, StepFacts, StepManner, StepOption, StepOptions } from './step.ts';

export type { OptionValue, Pair, StepFacts, StepManner, StepOption, StepOptions } from './step.ts';

/** Every step that there is, in the order in which they are offered. */
const STEPS = {
  trim,
  case: changeCase,
  'part of a name': namePart,
  'join a name': joinName,
  'look-up': lookUp,
  'yes/no': yesNoWords,
  'write a date': writeDate,
  'read a date': readDate,
  'time between': timeBetween,
  'write a number': writeNumber,
  'read a number': readNumber,
  'part of a membership': membershipPart,
  'part of an amount': moneyPart,
  'make an amount': makeMoney,
  'phone format': phoneFormat,
  cut,
  'part of a URL': urlPart,
  'find and replace': replace,
  'strip HTML': stripHtml,
  join: joinList,
  split: splitList,
  count,
  sum,
  column,
  pick,
  filter,
  hash,
  'plain ASCII': plainAscii,
  slug,
};

export type StepKind = keyof typeof STEPS;
export const STEP_KINDS = Object.keys(STEPS) as StepKind[];

/** A step, and what it is told. */
export interface ToldStep {
  kind: StepKind;
  /** Those of its options that differ from their presets may be left out. */
  options: StepOptions;
}

/** One transformation of a value on its way. */
export interface Step extends ToldStep {
  /** Within its line; it outlives reordering. */
  id: string;
}

/** What a step does, what it takes and gives. */
export const stepOf = (kind: StepKind): StepManner => STEPS[kind];

/** A chain of steps, whose ids say where each stood at first. */
export const chainOf = (...steps: ToldStep[]): Step[] => steps.map((step, index) => ({ id: `s${index + 1}`, ...step }));

/** Everything that a step is told: what is not said is as its presets are. Found once for a step that is applied to many. */
export function optionsOf({ kind, options }: ToldStep): StepOptions {
  const before = FULL.get(options);
  if (before) return before;
  const full = { ...presetsOf(stepOf(kind)), ...options };
  FULL.set(options, full);
  return full;
}

const FULL = new WeakMap<StepOptions, StepOptions>();

const presetsOf = ({ options }: StepManner): StepOptions =>
  Object.fromEntries(Object.entries(options).map(([name, { preset }]) => [name, preset]));

/** The ids of the source fields that a step was told of. */
export const fieldsTold = (step: ToldStep): string[] =>
  Object.entries(stepOf(step.kind).options).flatMap(([name, { kind }]) => {
    const told = kind === 'field' ? step.options[name] : '';
    return typeof told === 'string' && told !== '' ? [told] : [];
  });

/** What a step does, in a few words. */
export const stepInWords = (step: ToldStep): string =>
  // What is told by a text that is not written yet says nothing.
  (stepOf(step.kind).say?.(optionsOf(step)) ?? step.kind).trim() || step.kind;

/** Something that can be added to a line: a step in one of its ready forms. */
export interface StepOffer extends ToldStep {
  name: string;
}

/** The forms in which a step is offered. */
export const offersOf = (kind: StepKind): StepOffer[] =>
  (stepOf(kind).offers ?? [{ name: kind, options: {} }]).map((offer) => ({ kind, ...offer }));

/** Whether what a step was told is something that it can be told. */
export function isStep(value: unknown): value is Step {
  if (typeof value !== 'object' || value === null) return false;
  const { id, kind, options } = value as Record<string, unknown>;
  if (typeof id !== 'string' || id === '' || id.length > 40) return false;
  if (typeof kind !== 'string' || !Object.hasOwn(STEPS, kind)) return false;
  if (typeof options !== 'object' || options === null || Array.isArray(options)) return false;
  const known = stepOf(kind as StepKind).options;
  return Object.entries(options).every(
    ([name, told]) => Object.hasOwn(known, name) && known[name] !== undefined && fitsOption(known[name], told),
  );
}

const LONGEST = 500;
const MOST_PAIRS = 500;

function fitsOption(option: StepOption, told: unknown): boolean {
  switch (option.kind) {
    case 'number':
      return typeof told === 'number' && Number.isInteger(told) && told >= option.least && told <= option.most;
    case 'choice':
      return option.of.some((word) => word === told);
    case 'pairs':
      return Array.isArray(told) && told.length <= MOST_PAIRS && told.every(isPair);
    case 'language':
      return told === '' || (isShort(told) && isLanguage(told));
    case 'currency':
      return isShort(told) && /^[A-Z]{3}$/.test(told);
    case 'time zone':
      return told === '' || (isShort(told) && isZone(told));
    case 'text':
    case 'field':
      return isShort(told);
    default:
      return option satisfies never;
  }
}

const isShort = (value: unknown): value is string => typeof value === 'string' && value.length <= LONGEST;
const isPair = (value: unknown): value is Pair =>
  Array.isArray(value) && value.length === 2 && value.every((text) => isShort(text));

function isLanguage(tag: string): boolean {
  try {
    return Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
}

function isZone(name: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: name }).resolvedOptions().timeZone !== '';
  } catch {
    return false;
  }
}

/** The type after a step; null where the step makes nothing of what comes. Several texts go through it one by one. */
function typeAfter(came: TypeName, step: ToldStep): TypeName | null {
  const { takes, gives, lets } = stepOf(step.kind);
  const shape = shapeOfType(came);
  if (takes.includes(came) || takes.includes(shape))
    return typeof gives === 'string' ? gives : gives(optionsOf(step), shape);
  if (lets) return came;
  return shape === 'several choices' && takes.includes('text') && gives === 'text' ? came : null;
}

/** Where a chain of steps does not meet. */
export interface ChainTrouble {
  /** Which step cannot take what comes, counted from 0. */
  index: number;
  step: ToldStep;
  /** What comes to it. */
  came: TypeName;
  /** A step that would turn what comes into what it takes; null where there is none. */
  mend: ToldStep | null;
}

/** Checks a chain while it is edited, without a value. @param type of the field that it starts from @returns null when it meets */
export function chainTrouble(type: TypeName, steps: ToldStep[]): ChainTrouble | null {
  let came = type;
  for (const [index, step] of steps.entries()) {
    const next = typeAfter(came, step);
    if (next === null) return { index, step, came, mend: mendFor(came, step) };
    came = next;
  }
  return null;
}

function mendFor(came: TypeName, step: ToldStep): ToldStep | null {
  for (const kind of STEP_KINDS) {
    const mend = { kind, options: {} };
    const between = typeAfter(came, mend);
    if (between !== null && between !== came && typeAfter(between, step) !== null) return mend;
  }
  return null;
}

/** What comes out of a chain; null where it does not meet. */
export function typeAfterAll(type: TypeName, steps: ToldStep[]): TypeName | null {
  let came: TypeName | null = type;
  for (const step of steps) came = came === null ? null : typeAfter(came, step);
  return came;
}

/** The steps that can follow on a chain, each in its ready forms. */
export function offersAfter(type: TypeName, steps: ToldStep[]): StepOffer[] {
  const came = typeAfterAll(type, steps);
  if (came === null) return [];
  return STEP_KINDS.filter((kind) => typeAfter(came, { kind, options: {} }) !== null).flatMap(offersOf);
}

/**
 * Applies one step. A value of a shape that it does not take goes on as it is, as in routes of before chains were checked; a
 * chain that does not meet cannot go live any more.
 * @returns what keeps it from making something of a value that it takes
 */
export function applyStep(step: ToldStep, value: FieldValue, facts: StepFacts): Result<FieldValue> {
  const { takesEmpty, takesText, apply, options, shapes } = readyStep(step);
  if (isEmpty(value)) return takesEmpty ? apply(value, options, facts) : good(value);
  if (shapes.has(shapeOf(value))) return apply(value, options, facts);
  if (!isTexts(value) || !takesText) return good(value);
  const items: string[] = [];
  for (const item of value) {
    const applied = apply(item, options, facts);
    if (!applied.ok) return applied;
    const text = printValue(applied.value);
    // What a step leaves out of several is not there as an empty one.
    if (text !== '') items.push(text);
  }
  return good(items);
}

/** A step with all that applying it needs. Found once: a step is never changed in place. */
interface ReadyStep {
  takesEmpty: boolean;
  /** Whether several texts go through it one by one. */
  takesText: boolean;
  apply: StepManner['apply'];
  options: StepOptions;
  /** The shapes of the types that it takes. */
  shapes: Set<TypeName>;
}

function readyStep(step: ToldStep): ReadyStep {
  const before = READY_STEPS.get(step);
  if (before) return before;
  const { takes, takesEmpty, apply } = stepOf(step.kind);
  const shapes = new Set(takes.map(shapeOfType));
  const ready = {
    takesEmpty: takesEmpty === true,
    takesText: takes.includes('text'),
    apply,
    options: optionsOf(step),
    shapes,
  };
  READY_STEPS.set(step, ready);
  return ready;
}

const READY_STEPS = new WeakMap<ToldStep, ReadyStep>();

const isTexts = (value: FieldValue): value is string[] => shapeOf(value) === 'several choices';
