import { Hono } from 'hono';
import { html, raw } from 'hono/html';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { Faults } from '../faults.ts';

export interface Letter {
  id: number;
  messageId: string;
  to: string;
  from: string;
  subject: string;
  text: string;
  html: string;
  date: string;
  headers: Record<string, string>;
}

/** Letterloft: takes mail by SMTP, shows it on a page and as JSON. The same Message-ID is the same letter, as in real mailboxes. */
export function letterloftApp(letters: Letter[], changed: () => void): { app: Hono; smtp: SMTPServer } {
  const faults = new Faults();
  const app = new Hono();
  app.route('/', faults.routes());
  app.get('/inside.json', (c) => c.json({ messages: letters }));
  app.delete('/inside.json', (c) => {
    letters.length = 0;
    changed();
    return c.body(null, 204);
  });
  app.get('/', (c) => c.html(mailbox(letters, c.req.query('to') ?? '')));
  app.get('/letters/:id', (c) => {
    const letter = letters.find(({ id }) => id === Number(c.req.param('id')));
    return letter ? c.html(letterPage(letter)) : c.text('There is no such letter.', 404);
  });
  app.get('/letters/:id/body', (c) => {
    const letter = letters.find(({ id }) => id === Number(c.req.param('id')));
    c.header('content-security-policy', "default-src 'none'; style-src 'unsafe-inline'");
    return c.html((letter?.html ?? '').replace('<head>', '<head><base target="_top">'));
  });

  const smtp = new SMTPServer({
    authOptional: true,
    // Asking a name server who is calling would take long on a machine that has none.
    disableReverseLookup: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    logger: false,
    onData(stream, session, done) {
      const fault = faults.take('/smtp');
      if (fault && fault.kind !== 'slow') {
        stream.resume();
        // The SMTP answer codes of RFC 5321, 4.2.3; a dropped connection ends without one.
        const responseCode = fault.kind === 'status' ? (fault.status ?? 451) : 421;
        stream.once('end', () => done(Object.assign(new Error('asked to refuse'), { responseCode })));
        if (fault.kind === 'drop') (session as unknown as { socket?: { destroy(): void } }).socket?.destroy();
        return;
      }
      simpleParser(stream)
        .then((mail) => {
          keepLetter(letters, mail);
          changed();
          setTimeout(() => done(), fault ? (fault.delay ?? 15_000) : 0);
        })
        .catch((error: unknown) => done(error instanceof Error ? error : new Error('unreadable')));
    },
  });
  // Whoever is cut off while sending has sent nothing; the mailbox goes on.
  smtp.on('error', () => undefined);
  return { app, smtp };
}

/** Keeps a letter, unless it has come before: the same Message-ID is the same letter. */
function keepLetter(letters: Letter[], mail: ParsedMail): void {
  const messageId = mail.messageId ?? '';
  if (messageId !== '' && letters.some((letter) => letter.messageId === messageId)) return;
  const to = (Array.isArray(mail.to) ? mail.to : mail.to ? [mail.to] : []).map(({ text }) => text).join(', ');
  letters.push({
    id: (letters.at(-1)?.id ?? 0) + 1,
    messageId,
    to,
    from: mail.from?.text ?? '',
    subject: mail.subject ?? '',
    text: mail.text ?? '',
    html: mail.html || '',
    date: (mail.date ?? new Date()).toISOString(),
    headers: Object.fromEntries(
      mail.headerLines.map(({ key, line }) => [key, line.slice(line.indexOf(':') + 1).trim()]),
    ),
  });
}

const STYLE = `body{font:16px/1.5 system-ui,sans-serif;margin:0;color:#20242c;background:#f3f1fa}header{background:#3d2f6b;color:#fff;padding:.8rem 1.5rem}header a{color:#fff}main{max-width:60rem;margin:0 auto;padding:1rem 1.5rem}li{list-style:none;border-bottom:1px solid #cfc9e2}li a{display:grid;grid-template-columns:minmax(0,22rem) 1fr auto;gap:1rem;padding:.6rem .3rem;color:inherit;text-decoration:none}li a:hover{background:#fff}ul{padding:0}iframe{width:100%;min-height:24rem;border:1px solid #cfc9e2;background:#fff}dl{display:grid;grid-template-columns:5rem 1fr;margin:0 0 1rem}dd{margin:0}@media(max-width:600px){li a{grid-template-columns:1fr;gap:0}}`;

const frame = (title: string, body: ReturnType<typeof html>) =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <title>${title}</title>
        <style>
          ${raw(STYLE)}
        </style>
      </head>
      <body>
        <header>
          <a href="/"><strong>Letterloft</strong></a> · every mail that was sent here
        </header>
        <main>${body}</main>
      </body>
    </html>`;

function mailbox(letters: Letter[], to: string) {
  const shown = letters
    .filter((letter) => letter.to.toLowerCase().includes(to.toLowerCase()))
    .sort((a, b) => b.date.localeCompare(a.date));
  return frame(
    'Letterloft: mailbox',
    html`<h1>${shown.length} letters</h1>
      <form>
        <label>To <input name="to" value="${to}" /></label> <button>Find</button>
      </form>
      <ul>
        ${shown.slice(0, 200).map(
          (letter) =>
            html`<li>
              <a href="/letters/${letter.id}"
                ><span>${letter.to}</span><strong>${letter.subject}</strong
                ><small>${letter.date.slice(0, 16).replace('T', ' ')}</small></a
              >
            </li>`,
        )}
      </ul>`,
  );
}

function letterPage(letter: Letter) {
  // Links in the letter open in the whole window, as in a mail program.
  return frame(
    `Letterloft: ${letter.subject}`,
    html`<h1>${letter.subject}</h1>
      <dl>
        <dt>From</dt>
        <dd>${letter.from}</dd>
        <dt>To</dt>
        <dd>${letter.to}</dd>
        <dt>Sent</dt>
        <dd>${letter.date.slice(0, 19).replace('T', ' ')}</dd>
      </dl>
      <iframe
        title="The letter"
        src="/letters/${letter.id}/body"
        sandbox="allow-top-navigation-by-user-activation allow-popups allow-popups-to-escape-sandbox"
      ></iframe>
      <h2>As text</h2>
      <pre style="white-space:pre-wrap">${letter.text}</pre>`,
  );
}
