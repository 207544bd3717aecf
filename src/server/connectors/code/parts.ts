import type { ExchangeView } from '../../../contract/deliveries.ts';
import type { Cause, Fault } from '../../../core/delivery/index.ts';
import { mask } from '../http.ts';
import type { Access } from '../access.ts';
import type { Send } from '../http.ts';

/** What a connector written in code is handed. */
export interface CodeParts {
  send: Send;
  access: Access;
  now: () => number;
  record: ExchangeView[];
  /** Where dropped files go. */
  dropFolder: string;
  /** Whether private and loopback addresses may be called. */
  allowPrivate: boolean;
}

export interface Added {
  fault: Fault | null;
}

/** Notes what was sent by other means than HTTP, and reads the ending. RFC 5321, 4.2: 4yz passes, 5yz stays. */
export function recordingOf({ record, now, access }: CodeParts, method: string, url: string, body: unknown) {
  const started = now();
  return (status: number | null, said: string, error: unknown): Added => {
    record.push({
      at: new Date(started).toISOString(),
      method,
      url: url.replace(access.credentials.password ?? '\n', mask(access.credentials.password ?? '')),
      requestHeaders: {},
      requestBody: body,
      status,
      responseHeaders: {},
      responseBody: said,
      milliseconds: now() - started,
    });
    return { fault: error === null ? null : { cause: causeOf(status, said), said: describe(status), waitMs: null } };
  };
}

function causeOf(status: number | null, code: string): Cause {
  if (code === 'EAUTH') return 'credentials refused';
  if (code === 'EENVELOPE') return 'address invalid';
  if (status !== null && status >= 500) return 'value refused';
  return code === 'ETIMEDOUT' || code === 'ESOCKET' ? 'time-out' : 'unavailable';
}

const describe = (status: number | null): string => (status === null ? '' : `The mail server answered ${status}.`);
