import type { Condition } from '../conditions/index.ts';
import type { Look } from '../forms/index.ts';
import type { SourceField } from '../values/index.ts';

/** Where a conversation goes on: the id of a part; '' for the next step. */
export type Onward = string;

/** Hours of the week, in the time of a zone. */
export interface Hours {
  /** Days by ISO 8601: 1 for Monday to 7 for Sunday. */
  days: number[];
  /** Such as 09:00; the end is not within it. */
  from: string;
  to: string;
  /** A name of the IANA time zone database. */
  zone: string;
}

/** One way out of a decision: the first whose condition holds is taken. Without either it always holds. */
export interface ChatRule {
  id: string;
  when: Condition | null;
  hours: Hours | null;
  to: Onward;
}

/** One step of a conversation. Fields are named by their ids. */
export type ChatStep = { id: string } & (
  | { kind: 'say'; text: string }
  /** One presses, or types, one of the answers. */
  | { kind: 'choose'; text: string; field: string; choices: { label: string; to: Onward }[] }
  /** One types an answer of the field's type. What is not understood is asked again, twice at most. */
  | { kind: 'ask'; text: string; field: string; otherwise: Onward }
  | { kind: 'form'; text: string; fields: string[] }
  /** The words of the consent are the label of its field. */
  | { kind: 'consent'; text: string; field: string }
  | { kind: 'decide'; rules: ChatRule[] }
  /** Writes into a field what stands beside an answer in a list. */
  | { kind: 'look up'; from: string; pairs: [answer: string, value: string][]; otherwise: string; into: string }
  /** A mail to colleagues; {field} stands for an answer. */
  | { kind: 'notify'; to: string[]; subject: string; text: string }
  /** A colleague may take over; after so many seconds it goes on elsewhere. */
  | { kind: 'hand over'; text: string; seconds: number; otherwise: Onward }
  | { kind: 'jump'; to: Onward }
  | { kind: 'end'; text: string; link: string; linkText: string }
);
export type StepKind = ChatStep['kind'];

/** Steps one after the other, under a name by which others lead there. */
export interface ChatPart {
  id: string;
  name: string;
  steps: ChatStep[];
}

/** What becomes of a conversation that breaks off. keep: it is kept to be looked at. contact: who it was is known. send: as if it had ended. */
export const UNFINISHED = ['keep', 'contact', 'send'] as const;
export type Unfinished = (typeof UNFINISHED)[number];

/** What a document says of a chat beside its fields. */
export interface ChatParts {
  /** The first is where it begins. */
  parts: ChatPart[];
  unfinished: Unfinished;
  /** After so many minutes without a word it has broken off. */
  breaksOffMinutes: number;
}

/** What of a chat a variant says in its own way. It fills in some or all of the chat's fields. */
export interface ChatFace {
  /** What its window is called. */
  title: string;
  /** What stands on the button that opens it. */
  launcher: string;
  look: Look;
  /** The first is where it begins. */
  parts: ChatPart[];
}

/** What a variant of a chat begins with: the chat as it is. */
export const chatFaceOf = ({ title, launcher, look, parts }: ChatFace): ChatFace => ({ title, launcher, look, parts });

/**
 * The fields of a chat after something in it was changed: what another of its faces still asks for stays, and so do the answers
 * that are offered there.
 */
export function fieldsOfFaces(
  faces: Pick<ChatFace, 'parts'>[],
  { before, after }: { before: SourceField[]; after: SourceField[] },
): SourceField[] {
  const steps = faces.flatMap(({ parts }) => allSteps(parts).map(({ step }) => step));
  const filled = new Set(steps.flatMap(fieldsFilledBy));
  const gone = before.filter(({ id }) => filled.has(id) && !after.some((field) => field.id === id));
  return [...after, ...gone].map((field) => {
    const offered = steps.flatMap((step) =>
      step.kind === 'choose' && step.field === field.id ? step.choices.map(({ label }) => label) : [],
    );
    const options = [...new Set([...field.options, ...offered])];
    return options.length === field.options.length ? field : { ...field, options };
  });
}

/** The field that says whether a conversation came to its end. */
export const FINISHED_FIELD = 'finished';

/** Every step, with the part that it is in and its place there. */
export const allSteps = (parts: ChatPart[]): { part: ChatPart; step: ChatStep; index: number }[] =>
  parts.flatMap((part) => part.steps.map((step, index) => ({ part, step, index })));

/** A way from a step to another one, and when it is taken; '' for always. */
export interface Way {
  to: Onward;
  when: string;
}

/** The ways on from a step, in their order; none from an end. */
export function waysFrom(step: ChatStep): Way[] {
  const onward: Way = { to: '', when: '' };
  switch (step.kind) {
    case 'choose':
      return step.choices.map(({ label, to }) => ({ to, when: label }));
    case 'ask':
      return step.otherwise === '' ? [onward] : [onward, { to: step.otherwise, when: 'not understood' }];
    case 'decide': {
      const ways = step.rules.map(({ when, hours, to }, at) => ({
        to,
        when: hours ? `${hours.from}–${hours.to}` : when === null ? 'else' : `condition ${at + 1}`,
      }));
      const alwaysHolds = step.rules.some(({ when, hours }) => when === null && hours === null);
      return alwaysHolds ? ways : [...ways, { to: '', when: 'else' }];
    }
    case 'hand over':
      return step.otherwise === ''
        ? [onward]
        : [
            { to: '', when: 'afterwards' },
            { to: step.otherwise, when: 'nobody came' },
          ];
    case 'jump':
      return [{ to: step.to, when: '' }];
    case 'end':
      return [];
    default:
      return [onward];
  }
}

/** The fields that a step fills in. */
export function fieldsFilledBy(step: ChatStep): string[] {
  switch (step.kind) {
    case 'choose':
    case 'ask':
    case 'consent':
      return [step.field];
    case 'form':
      return step.fields;
    case 'look up':
      return [step.into];
    default:
      return [];
  }
}
