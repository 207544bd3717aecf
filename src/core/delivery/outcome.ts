import { isObject } from '../documents/index.ts';
import { causeOfStatus, sayingOf, textIn } from './answered.ts';
import type { Cause } from './causes.ts';
import { refusalIn } from './refusedInside.ts';
import { readWait } from './remainingBudget.ts';

/** What came of one request. */
export type Answer =
  | { kind: 'answered'; status: number; headers: Record<string, string>; body: unknown; readable: boolean }
  | {
      kind: 'unanswered';
      fault:
        | 'unreachable'
        | 'dropped'
        | 'time-out'
        | 'certificate'
        | 'forbidden address'
        | 'too large'
        | 'incomplete request';
      code: string;
    };

/** How a connector's profile reads an error: the first rule whose parts all match decides. */
export interface ErrorRule {
  status: number;
  /** The end of a problem document's `type` (RFC 9457); absent matches any. */
  type?: string;
  cause: Cause;
}

/** The rules of a profile, with what only its engine can read out of a body. */
export interface ErrorReading {
  rules: ErrorRule[];
  /** The cause that a code in the body stands for; null when there is none that is known. */
  causeByCode?: (status: number, body: unknown) => Cause | null;
  /** The service's own words; '' for none. */
  wordsIn?: (body: unknown) => string;
  /** Whether a body whose status is one of success says so too; null where nobody knows how to tell, and the usual signs are read. */
  accepts?: (body: unknown) => boolean | null;
}

export interface Fault {
  cause: Cause;
  /** What the other system said, in its words, or ''. */
  said: string;
  /** How long it asked to be left alone, in milliseconds. */
  waitMs: number | null;
}

/**
 * Reads an answer: null when it is a success, otherwise the cause.
 * Pure; `now` is only for Retry-After dates.
 */
export function classifyAnswer(answer: Answer, reading: ErrorReading, now: number): Fault | null {
  if (answer.kind === 'unanswered') return { cause: causeOfSilence(answer.fault), said: '', waitMs: null };
  const { rules, causeByCode, wordsIn } = reading;
  const { status, body } = answer;
  if (status >= 200 && status < 300) return answer.readable ? refusedInside(answer, reading, now) : UNREADABLE;
  const said = wordsIn?.(body) || sayingOf(body);
  const type = isObject(body) ? textIn(body, 'type') : '';
  const rule = rules.find(
    (candidate) => candidate.status === status && (candidate.type === undefined || type.endsWith(candidate.type)),
  );
  return {
    cause: causeByCode?.(status, body) ?? rule?.cause ?? causeOfStatus(status),
    said,
    waitMs: readWait(answer.headers, now),
  };
}

const UNREADABLE: Fault = { cause: 'answer unreadable', said: '', waitMs: null };

/** Why an answer is none of success though its status is; null where it is one. What the profile says decides, then what is usual. */
function refusedInside(
  { status, headers, body }: Extract<Answer, { kind: 'answered' }>,
  { causeByCode, wordsIn, accepts }: ErrorReading,
  now: number,
): Fault | null {
  const known = causeByCode?.(status, body) ?? null;
  const isAccepted = accepts?.(body) ?? null;
  if (known === null && isAccepted === true) return null;
  const cause = known ?? refusalIn(body) ?? (isAccepted === false ? 'value refused' : null);
  return cause && { cause, said: wordsIn?.(body) || sayingOf(body), waitMs: readWait(headers, now) };
}

function causeOfSilence(fault: (Answer & { kind: 'unanswered' })['fault']): Cause {
  switch (fault) {
    case 'unreachable':
    case 'certificate':
      return 'unavailable';
    case 'dropped':
    case 'time-out':
      return 'time-out';
    case 'too large':
      return 'answer unreadable';
    case 'forbidden address':
      return 'address not allowed';
    case 'incomplete request':
      return 'incomplete request';
    default:
      return fault satisfies never;
  }
}
