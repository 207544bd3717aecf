import { bad, good, type Result } from '../result.ts';
import { inWords, oneLine, printValue, shapeOf, shapeOfType, type FieldValue, type TypeName } from '../values/index.ts';

/** What is done with a value on its way, in one respect. */
interface StepManner {
  /** In the interface's words. */
  help: string;
  /** The shapes that it makes something of. */
  takes: TypeName[];
  /** Whether what it does not take may come to it, and goes through as it is: it has no blanks. */
  lets?: true;
  /** The shape of what it makes. */
  gives: TypeName;
  /** A value, and what becomes of it. */
  example: [from: FieldValue, to: FieldValue];
  /** @returns what it makes, or what keeps it from that, as said after the name of a field */
  apply: (value: FieldValue) => Result<FieldValue>;
}

const ofText = (change: (text: string) => string) => (value: FieldValue) => good(change(printValue(value)));

/** A part of a name: as its parts were said, or else by its first blank. */
const partOfName = (part: 'given' | 'family') => (value: FieldValue) => {
  if (typeof value === 'object' && 'given' in value) return good(value[part]);
  const name = oneLine(printValue(value));
  const blank = name.indexOf(' ');
  if (part === 'given') return good(blank < 0 ? name : name.slice(0, blank));
  return good(blank < 0 ? '' : name.slice(blank + 1));
};

const YES = new Set(['yes', 'true', '1', 'on', 'y']);
const NO = new Set(['no', 'false', '0', 'off', 'n', '']);

/** Every step that there is. */
export const STEPS = {
  trim: {
    help: 'takes off blanks at both ends and doubled blanks inside',
    takes: ['text'],
    lets: true,
    gives: 'text',
    example: ['  Mara   Quill ', 'Mara Quill'],
    apply: ofText(oneLine),
  },
  'lower-case': {
    help: 'turns capitals into small letters',
    takes: ['text'],
    gives: 'text',
    example: ['MARA@B.Example', 'mara@b.example'],
    apply: ofText((text) => text.toLowerCase()),
  },
  'first name': {
    help: 'takes the first word of a full name',
    takes: ['text', 'person name'],
    gives: 'text',
    example: ['Mara Anne Quill', 'Mara'],
    apply: partOfName('given'),
  },
  'last name': {
    help: 'takes what follows the first word of a full name',
    takes: ['text', 'person name'],
    gives: 'text',
    example: ['Mara Anne Quill', 'Anne Quill'],
    apply: partOfName('family'),
  },
  'yes/no to 1/0': {
    help: 'turns yes, true or a tick into 1, and no, false or an empty box into 0',
    takes: ['yes/no', 'text'],
    gives: 'text',
    example: [true, '1'],
    apply: (value) => {
      const word = printValue(value).trim().toLowerCase();
      if (YES.has(word)) return good('1');
      return NO.has(word) ? good('0') : bad(`"${inWords(value)}" is neither yes nor no`);
    },
  },
} satisfies Record<string, StepManner>;

export type StepKind = keyof typeof STEPS;
export const STEP_KINDS = Object.keys(STEPS) as StepKind[];

/** One transformation of a value on its way. */
export interface Step {
  kind: StepKind;
}

/** What a step does, what it takes and gives. */
export const stepOf = (kind: StepKind): StepManner => STEPS[kind];

/** The shape after a step; null where the step makes nothing of it. Several texts go through it one by one. */
function shapeAfter(shape: TypeName, { kind }: Step): TypeName | null {
  const { takes, gives, lets } = stepOf(kind);
  if (takes.includes(shape)) return gives;
  if (lets) return shape;
  return shape === 'several choices' && takes.includes('text') && gives === 'text' ? shape : null;
}

/** Where a chain of steps does not meet. */
export interface ChainTrouble {
  /** Which step cannot take what comes, counted from 0. */
  index: number;
  kind: StepKind;
  /** What comes to it. */
  shape: TypeName;
  /** A step that would turn what comes into what it takes; null where there is none. */
  mend: StepKind | null;
}

/** Checks a chain while it is edited, without a value. @param type of the field that it starts from @returns null when it meets */
export function chainTrouble(type: TypeName, steps: Step[]): ChainTrouble | null {
  let shape = shapeOfType(type);
  for (const [index, step] of steps.entries()) {
    const next = shapeAfter(shape, step);
    if (next === null) {
      const comes = shape;
      const mend = STEP_KINDS.find((kind) => {
        const between = shapeAfter(comes, { kind });
        return between !== null && shapeAfter(between, step) !== null;
      });
      return { index, kind: step.kind, shape, mend: mend ?? null };
    }
    shape = next;
  }
  return null;
}

/** The steps that can follow on a chain. */
export function stepsAfter(type: TypeName, steps: Step[]): StepKind[] {
  if (chainTrouble(type, steps) !== null) return [];
  return STEP_KINDS.filter((kind) => chainTrouble(type, [...steps, { kind }]) === null);
}

/**
 * Applies one step. A value of a shape that it does not take goes on as it is, as in routes of before chains were checked; a
 * chain that does not meet cannot go live any more.
 * @returns what keeps it from making something of a value that it takes
 */
export function applyStep({ kind }: Step, value: FieldValue): Result<FieldValue> {
  const { takes, apply } = stepOf(kind);
  if (takes.includes(shapeOf(value))) return apply(value);
  if (!isTexts(value) || !takes.includes('text')) return good(value);
  const items: string[] = [];
  for (const item of value) {
    const applied = apply(item);
    if (!applied.ok) return applied;
    items.push(printValue(applied.value));
  }
  return good(items);
}

const isTexts = (value: FieldValue): value is string[] => shapeOf(value) === 'several choices';
