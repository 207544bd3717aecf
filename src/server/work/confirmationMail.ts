import type { ConsentPolicy } from '../../core/plan/index.ts';
import { escapeHtml } from '../../core/formats/index.ts';

/** Prints a confirmation mail in text and HTML: the operator's words, with the link where {link} stands. */
export function printConfirmationMail(
  { subject, body, button }: ConsentPolicy['mail'],
  link: string,
): { subject: string; text: string; html: string } {
  const action = `<a href="${escapeHtml(link)}" style="display:inline-block;padding:12px 20px;background:#14424a;color:#ffffff;text-decoration:none;border-radius:4px">${escapeHtml(button)}</a>`;
  const paragraphs = body
    .trim()
    .split(/\n\s*\n/)
    .map((paragraph) => `<p>${escapeHtml(paragraph).replaceAll('\n', '<br>').replaceAll('{link}', action)}</p>`);
  return {
    subject,
    text: `${body.trim().replaceAll('{link}', `${button}:\n${link}`)}\n`,
    html: `<!doctype html><html><head><meta charset="utf-8"><title>${escapeHtml(subject)}</title></head><body style="margin:0;padding:24px;font:16px/1.5 sans-serif;color:#1b1b1b;max-width:600px">${paragraphs.join('')}</body></html>`,
  };
}
