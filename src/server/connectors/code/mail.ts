import { createTransport, type Transporter } from 'nodemailer';
import { resolveGuarded } from '../../security/addresses.ts';
import { recordingOf, type CodeParts } from './parts.ts';

const LIMIT_MS = 15_000;

/** Sends mail by SMTP. Sender, subject and text come out of the mapping; so does whom it is for, unless it is the visitor. */
export function mailConnector(parts: CodeParts) {
  const { access } = parts;
  const { hostname } = new URL(access.baseUrl);
  return {
    /** Signs in at the mail server without sending anything. */
    async verify(): Promise<{ ok: true; account: string } | { ok: false; code: string }> {
      try {
        await withTransport(parts, (transport) => transport.verify());
        return { ok: true, account: hostname };
      } catch (error) {
        return { ok: false, code: codeOf(error) };
      }
    },

    /** @param email the visitor's address, to whom it goes where the mapping names nobody */
    async add(fields: Record<string, unknown>, email: string, idempotencyKey: string) {
      const record = recordingOf(parts, 'SEND', access.baseUrl, fields);
      const text = (key: string) => (typeof fields[key] === 'string' ? fields[key] : '');
      try {
        await withTransport(parts, (transport) =>
          transport.sendMail({
            from: text('from'),
            to: text('to') || email,
            ...(text('replyTo') === '' ? {} : { replyTo: text('replyTo') }),
            subject: text('subject'),
            text: text('text'),
            // The same message, should it be sent twice.
            messageId: `<${idempotencyKey}@${hostname}>`,
            headers: { 'Auto-Submitted': 'auto-generated' },
          }),
        );
        return record(250, 'accepted', null);
      } catch (error) {
        const { responseCode } = error as { responseCode?: number };
        return record(responseCode ?? null, codeOf(error), error);
      }
    },
  };
}

async function withTransport<T>(
  { access, allowPrivate }: CodeParts,
  use: (transport: Transporter) => Promise<T>,
): Promise<T> {
  const { user = '', password = '' } = access.credentials;
  const url = new URL(access.baseUrl);
  const secure = url.protocol === 'smtps:';
  const transport = createTransport({
    // The name is resolved here, so that it cannot lead to a private address; the certificate is still checked against it.
    host: allowPrivate ? url.hostname : await resolveGuarded(url.hostname),
    port: Number(url.port) || (secure ? 465 : 587),
    secure,
    tls: { servername: url.hostname },
    ...(user === '' ? {} : { auth: { user, pass: password } }),
    connectionTimeout: LIMIT_MS,
    greetingTimeout: LIMIT_MS,
    socketTimeout: LIMIT_MS,
  });
  try {
    return await use(transport);
  } finally {
    transport.close();
  }
}

/** EAUTH, ECONNECTION and so on; never the server's words, which may hold the address. */
const codeOf = (error: unknown): string =>
  typeof error === 'object' && error !== null && 'code' in error && typeof error.code === 'string'
    ? error.code
    : 'unknown';
