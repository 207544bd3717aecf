import type { PrintedMail } from '../../../core/formats/index.ts';

/** A mail as whoever gets it sees it, by the very function that prints it when it goes out; nothing in it can act. */
export function MailAsReceived({ mail: { subject, html } }: { mail: PrintedMail }) {
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-sm text-muted">As it is received</summary>
      <iframe
        sandbox=""
        title={`The mail "${subject}"`}
        srcDoc={html}
        className="mt-1 w-full h-72 bg-white border border-base-300 rounded"
      />
    </details>
  );
}
