import { createTransport, type Transporter } from 'nodemailer';
import { printConfirmationMail, printPlainMail, type PrintedMail } from '../../core/formats/index.ts';
import type { Context } from '../context.ts';
import { newToken, sha256 } from '../security/tokens.ts';
import { addToken, type ConfirmationRecord } from '../store/confirmations.ts';
import { DAY_MS } from '../store/figures.ts';
import { countToMailbox, endMail, findMail, LONGEST_MAIL_WAIT_MS, type MailRecord } from '../store/mails.ts';

const MOST_TRIES = 10;

export function createMailer({ config }: Context): Transporter {
  return createTransport({
    url: config.smtpUrl,
    pool: true,
    maxConnections: 4,
    connectionTimeout: 10_000,
    socketTimeout: 20_000,
  } as object);
}

/**
 * Sends one mail of the outbox. One whose sending was interrupted is sent again with the same Message-ID, by which
 * mailboxes know that it is the same one.
 * @param taken the mail, and the taking by which it is at hand: what was lost meanwhile, and taken once more, is not sent twice
 */
export async function sendMail(
  context: Context,
  mailer: Transporter,
  { id, owner }: { id: string; owner: string },
): Promise<void> {
  const { store, config, now } = context;
  const found = await findMail(store.db, id);
  if (found?.mail.state !== 'sending' || found.mail.leaseOwner !== owner) return;
  const { mail, confirmation } = found;
  if (mail.kind === 'ask' && confirmation?.state !== 'pending')
    return endMail(store.db, id, { error: `not sent: the confirmation is ${confirmation?.state ?? 'gone'}` });
  // Once each, however often it is tried.
  if (mail.error === null && (await isFlooded(context, mail)))
    return endMail(store.db, id, { error: mail.kind === 'notify' ? FLOODED_COLLEAGUE : FLOODED });
  const { subject, text, html } = await printMail(context, mail, confirmation);
  try {
    await mailer.sendMail({
      from: config.mailFrom,
      to: mail.to,
      ...(mail.replyTo === '' ? {} : { replyTo: mail.replyTo }),
      subject,
      text,
      html,
      date: new Date(now()),
      messageId: `<${id}@${new URL(config.publicUrl).hostname}>`,
      headers: { 'Auto-Submitted': 'auto-generated' },
    });
    await endMail(store.db, id, { sentAt: now() });
  } catch (error) {
    const { code, responseCode } = error as { code?: string; responseCode?: number };
    // RFC 5321, 4.2.1: 5yz is a permanent refusal. The server's own words may hold the address, so they are not kept.
    const permanent = responseCode !== undefined && responseCode >= 500;
    const reason = responseCode
      ? `the mail server refused it (${responseCode})`
      : `the mail server could not be reached (${code ?? 'unknown'})`;
    if (permanent || mail.tries >= MOST_TRIES) return endMail(store.db, id, { error: reason });
    const wait = Math.min(LONGEST_MAIL_WAIT_MS, 1_000 * 2 ** mail.tries) * (0.5 + Math.random() / 2);
    await endMail(store.db, id, { error: reason, dueAt: Math.round(now() + wait) });
  }
}

/** So many mails at most go from here to one mailbox in a day: more is somebody typing the address of another person. */
const MOST_A_DAY = 12;
const FLOODED = `not sent: this mailbox got ${MOST_A_DAY} mails from here today already`;

const MOST_A_DAY_TO_COLLEAGUES = 200;
const FLOODED_COLLEAGUE = `not sent: this mailbox got ${MOST_A_DAY_TO_COLLEAGUES} mails from here today already; what they tell of is in Activity`;

async function isFlooded({ store, now }: Context, { to, kind }: Pick<MailRecord, 'to' | 'kind'>): Promise<boolean> {
  const day = Math.floor(now() / DAY_MS);
  let most = 0;
  for (const address of to) most = Math.max(most, await countToMailbox(store.db, mailboxKey(kind, address), day));
  return most > (kind === 'notify' ? MOST_A_DAY_TO_COLLEAGUES : MOST_A_DAY);
}

/** What we tell colleagues is counted apart from what visitors get. */
const mailboxKey = (kind: MailRecord['kind'], address: string): string =>
  sha256(`${kind === 'notify' ? 'colleague ' : ''}${mailboxOf(address)}`);

/** The mailbox behind an address: what follows a plus is a label of its owner's own (RFC 5233, as most providers have it). */
function mailboxOf(address: string): string {
  const at = address.lastIndexOf('@');
  return `${address.slice(0, at).replace(/\+.*$/, '')}${address.slice(at)}`.toLowerCase();
}

/** The words of a mail. A link to confirm is made now, so that its token is in no table. */
async function printMail(
  { store, config }: Context,
  mail: MailRecord,
  confirmation: ConfirmationRecord | null,
): Promise<PrintedMail> {
  if (mail.kind !== 'ask' || !confirmation) return printPlainMail(mail);
  const token = newToken();
  await addToken(store.db, sha256(token), confirmation.id);
  return printConfirmationMail(confirmation.mail, `${config.publicUrl}/confirm/${token}`);
}
