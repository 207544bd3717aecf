import { escapeHtml } from './escaping.ts';

/** The words of a mail that asks to confirm: {link} stands for the link, which is a button with a label. */
export interface AskingWords {
  subject: string;
  body: string;
  button: string;
}

export interface PrintedMail {
  subject: string;
  text: string;
  html: string;
}

/** Prints a confirmation mail in text and HTML: the operator's words, with the link where {link} stands. */
export function printConfirmationMail({ subject, body, button }: AskingWords, link: string): PrintedMail {
  const action = `<a href="${escapeHtml(link)}" style="display:inline-block;padding:12px 20px;background:#14424a;color:#ffffff;text-decoration:none;border-radius:4px">${escapeHtml(button)}</a>`;
  return {
    subject,
    text: `${body.trim().replaceAll('{link}', `${button}:\n${link}`)}\n`,
    html: inHtml(subject, body, (paragraph) => paragraph.replaceAll('{link}', action)),
  };
}

/** Prints a mail whose words are complete: an answer to a visitor, or a note to colleagues. */
export const printPlainMail = ({ subject, text }: { subject: string; text: string }): PrintedMail => ({
  subject,
  text: `${text.trim()}\n`,
  html: inHtml(subject, text, (paragraph) => paragraph),
});

function inHtml(subject: string, text: string, finish: (escapedParagraph: string) => string): string {
  const paragraphs = text
    .trim()
    .split(/\n\s*\n/)
    .map((paragraph) => `<p>${finish(lines(paragraph))}</p>`);
  return `<!doctype html><html><head><meta charset="utf-8"><title>${escapeHtml(subject)}</title></head><body style="margin:0;padding:24px;font:16px/1.5 sans-serif;color:#1b1b1b;max-width:600px">${paragraphs.join('')}</body></html>`;
}

/** Lines in HTML; what is set in stays so. */
const lines = (paragraph: string): string =>
  escapeHtml(paragraph).replaceAll('\n    ', '<br>&nbsp;&nbsp;&nbsp;&nbsp;').replaceAll('\n', '<br>');
