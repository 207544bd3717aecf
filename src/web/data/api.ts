import type { PartIssue } from '../../contract/checks.ts';
import { FILE_NAME_HEADER } from '../../contract/ownFiles.ts';

/** An input of the API as it is written down: its checks are the server's. */
export type Plain<Input> = Pick<Input, keyof Input>;

/** What the server said was wrong, with the parts it concerns. */
export class ApiProblem extends Error {
  readonly status: number;
  /** What kind of trouble it is, as in `/problems/there-already`. */
  readonly type: string;
  readonly issues: PartIssue[];
  constructor(status: number, title: string, issues: PartIssue[], type = '') {
    super(title);
    this.status = status;
    this.type = type;
    this.issues = issues;
  }
  /** What is wrong with one part, by its JSON Pointer; undefined when nothing is. */
  about(pointer: string): string | undefined {
    return this.issues.find((issue) => issue.pointer === pointer)?.detail;
  }
}

let csrf = '';

/** The token that goes with every change; known once signed in. */
export function rememberCsrf(token: string): void {
  csrf = token;
}

/** What a request of a page that is being left may hold (Fetch, 5.6). */
const KEPT_ALIVE = 60_000;

async function call<T>(method: string, path: string, body?: unknown, more: Record<string, string> = {}): Promise<T> {
  let response: Response;
  const text = body === undefined ? undefined : JSON.stringify(body);
  try {
    response = await fetch(`/api${path}`, {
      method,
      keepalive: method === 'PUT' && (text ?? '').length < KEPT_ALIVE,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...(method === 'GET' ? {} : { 'x-iwashi-csrf': csrf }),
        ...more,
      },
      ...(text === undefined ? {} : { body: text }),
    });
  } catch {
    throw new ApiProblem(0, 'Iwashi does not answer. Check your network; what you typed is still here.', []);
  }
  if (!response.ok) throw await problemOf(response);
  return (response.status === 204 ? undefined : await response.json()) as T;
}

/** Sends a file as it is. */
async function upload<T>(path: string, file: Blob, name: string): Promise<T> {
  const headers = { 'x-iwashi-csrf': csrf, [FILE_NAME_HEADER]: encodeURIComponent(name) };
  const response = await fetch(`/api${path}`, { method: 'POST', body: file, headers }).catch(() => null);
  if (!response) throw new ApiProblem(0, 'Iwashi does not answer. Check your network, and choose the file again.', []);
  if (!response.ok) throw await problemOf(response);
  return (await response.json()) as T;
}

async function problemOf(response: Response): Promise<ApiProblem> {
  const body = (await response.json().catch(() => ({}))) as {
    title?: string;
    type?: string;
    errors?: PartIssue[];
  };
  return new ApiProblem(
    response.status,
    body.title ?? 'Something went wrong here. Please try again.',
    body.errors ?? [],
    body.type,
  );
}

export const api = {
  get: <T>(path: string) => call<T>('GET', path),
  post: <T>(path: string, body: unknown = {}) => call<T>('POST', path, body),
  put: <T>(path: string, body: unknown) => call<T>('PUT', path, body),
  /** Saves something unless it is another revision by now (RFC 9110, 13.1.1). */
  putRevision: <T>(path: string, body: unknown, revision: string) =>
    call<T>('PUT', path, body, { 'if-match': `"${revision}"` }),
  upload,
  delete: (path: string) => call<undefined>('DELETE', path),
};

/** The sentence to show for a failure, whatever it was. */
export function saying(error: unknown): string {
  if (!(error instanceof Error)) return 'Something went wrong.';
  const [first, ...more] = error instanceof ApiProblem ? error.issues : [];
  if (!first || error.message.includes(first.detail)) return error.message;
  const others = more.length === 0 ? '' : ` And ${more.length} more ${more.length === 1 ? 'thing' : 'things'}.`;
  return `${error.message} ${first.detail}${others}`;
}
