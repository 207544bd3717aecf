import type { Cause } from './causes.ts';
import { readWait } from './room.ts';

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
  if (status >= 200 && status < 300) {
    return answer.readable ? null : { cause: 'answer unreadable', said: '', waitMs: null };
  }
  const said = wordsIn?.(body) || sayingOf(body);
  const type = textOf(body, 'type');
  const rule = rules.find(
    (candidate) => candidate.status === status && (candidate.type === undefined || type.endsWith(candidate.type)),
  );
  return {
    cause: causeByCode?.(status, body) ?? rule?.cause ?? causeOfStatus(status),
    said,
    waitMs: readWait(answer.headers, now),
  };
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

/** RFC 9110, section 15, read for deliveries. */
function causeOfStatus(status: number): Cause {
  if (status === 401) return 'credentials refused';
  if (status === 403) return 'not permitted';
  if (status === 404 || status === 410) return 'place gone';
  if (status === 409) return 'conflict';
  if (status === 408 || status === 425) return 'time-out';
  if (status === 413) return 'too large';
  if (status === 429) return 'rate limited';
  if (status >= 400 && status < 500) return 'value refused';
  return status >= 500 ? 'unavailable' : 'answer unreadable';
}

/** A problem document's own sentences: detail, or title, with what its errors name. A short plain text is taken as it is. */
function sayingOf(body: unknown): string {
  if (typeof body === 'string') return /[<>]/.test(body) ? '' : body.trim().slice(0, 300);
  const main = textOf(body, 'detail') || textOf(body, 'title');
  const errors =
    typeof body === 'object' && body !== null && 'errors' in body && Array.isArray(body.errors) ? body.errors : [];
  const details = errors.map((entry: unknown) =>
    [textOf(entry, 'pointer').split('/').at(-1) ?? '', textOf(entry, 'detail')].filter(Boolean).join(': '),
  );
  return [main, ...details].filter(Boolean).join(' ').slice(0, 500);
}

function textOf(body: unknown, name: string): string {
  if (typeof body !== 'object' || body === null) return '';
  const value = (body as Record<string, unknown>)[name];
  return typeof value === 'string' ? value : '';
}
