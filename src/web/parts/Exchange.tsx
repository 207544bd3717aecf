import type { ExchangeView } from '../../contract/deliveries.ts';
import { ExactTime } from './Time.tsx';

/** One request and its answer, as they went over the wire; what is secret is masked by the server. */
export function Exchange({ exchange }: { exchange: ExchangeView }) {
  const {
    method,
    url,
    status,
    milliseconds,
    requestHeaders,
    requestBody,
    responseHeaders,
    responseBody,
    at,
    together,
  } = exchange;
  return (
    <div className="grid gap-2 lg:grid-cols-2">
      {together !== undefined && together > 1 && (
        <p className="text-muted text-sm lg:col-span-2">
          One request for {together} people. This is the part about this person.
        </p>
      )}
      <Message title={`${method} ${url}`} aside={<ExactTime at={at} />} headers={requestHeaders} body={requestBody} />
      <Message
        title={status === null ? 'No answer' : `Answer ${status}`}
        aside={`${milliseconds} ms`}
        headers={responseHeaders}
        body={responseBody}
      />
    </div>
  );
}

function Message({
  title,
  aside,
  headers,
  body,
}: {
  title: string;
  aside: React.ReactNode;
  headers: Record<string, string>;
  body: unknown;
}) {
  const lines = Object.entries(headers).map(([name, value]) => `${name}: ${value}`);
  const text = [
    ...lines,
    ...(body === null ? [] : ['', typeof body === 'string' ? body : JSON.stringify(body, null, 2)]),
  ]
    .join('\n')
    .trim();
  return (
    <div className="min-w-0">
      <p className="flex justify-between gap-2 text-sm">
        <span className="font-semibold break-all">{title}</span>{' '}
        <span className="text-muted whitespace-nowrap">{aside}</span>
      </p>
      <pre
        className="bg-base-200 p-2 text-xs font-mono whitespace-pre-wrap break-words rounded max-h-80 overflow-auto"
        tabIndex={0}
      >
        {text || '(nothing)'}
      </pre>
    </div>
  );
}
