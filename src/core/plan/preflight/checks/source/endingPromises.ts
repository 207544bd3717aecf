import type { Check, Checked } from '../../check.ts';

/** Words for where mail is read, in the languages of forms. Common practice, with no source. */
const MAILBOX =
  /mail ?box|inbox|postfach|posteingang|boîte (de réception|mail|aux lettres)|buz[oó]n|bandeja de entrada|casella|postvak|mailbox|skrzynk|caixa de (correio|entrada)|inkorg|受信/i;

/** What visitors are told by somebody's own words once they sent it. */
const saidAfter = ({ source }: Checked): string[] =>
  source.kind === 'form'
    ? [source.ending, ...source.endings].map(({ message }) => message).filter((message) => message !== '')
    : [];

const asksByMail = ({ document: { consent } }: Checked): boolean =>
  consent.confirmedBy.by !== 'nobody' && consent.asks.some(({ channels }) => channels.includes('email'));

const mayWait = (checked: Checked): boolean =>
  asksByMail(checked) || checked.document.mails.some(({ kind }) => kind === 'answer');

export const endingPromises: Check = {
  code: 'the ending speaks of a mail that nobody sends',
  level: 'warning',
  why: 'Visitors look into their mailbox, find nothing, and take it that it did not work.',
  find: (checked) =>
    mayWait(checked)
      ? []
      : saidAfter(checked)
          .filter((message) => MAILBOX.test(message))
          .map((message) => ({
            part: 'source',
            message: `After sending, visitors read “${message}”, and this route sends them no mail.`,
            fix: 'Let people confirm by a mail, add an answer, or leave the words of the ending empty: then ours say what is so.',
          })),
};

export const endingSilent: Check = {
  code: 'the ending does not speak of the mail that asks',
  level: 'warning',
  why: 'Who does not know that a mail comes does not look for it, and is never confirmed.',
  find: (checked) => {
    const said = saidAfter(checked);
    return !asksByMail(checked) || said.length === 0 || said.some((message) => MAILBOX.test(message))
      ? []
      : [
          {
            part: 'source',
            message: `A mail asks visitors to confirm, and “${said[0] ?? ''}” does not say so.`,
            fix: 'Say it in the ending, or leave its words empty: then ours say it.',
          },
        ];
  },
};

/** Words that say that it depends, in the same languages. */
const DEPENDS = /\b(if|unless|falls|wenn|sofern|si|se|als|tenzij|jeśli|jeżeli|om)\b/iu;

export const endingForConfirmed: Check = {
  code: 'the ending promises a mail to those who confirmed before',
  level: 'hint',
  why: 'Who confirmed before gets no mail, and looks for one. Saying it only to the others would tell anybody whose address is confirmed.',
  find: (checked) =>
    asksByMail(checked)
      ? saidAfter(checked)
          .filter((message) => MAILBOX.test(message) && !DEPENDS.test(message))
          .map((message) => ({
            part: 'source',
            message: `Whoever confirmed before gets no mail, and reads “${message}” all the same.`,
            fix: 'Say that it comes unless they confirmed before, or leave the words of the ending empty: ours say so.',
          }))
      : [],
};
