import { parseEmail, type SourceField } from '../../values/index.ts';
import { asksForAddress } from '../../identity/index.ts';
import type { SourceDocument } from '../../intake/index.ts';
import { fieldsUsedIn } from '../../mapping/index.ts';
import { ANSWERS } from '../mailing.ts';
import type { RouteDocument, RouteMail } from '../route.ts';
import { conditionFindings } from './conditions.ts';
import { blocker, warning, type Finding } from './finding.ts';
import { unknownFields } from './unknownFields.ts';

/** Whether each mail has words, somebody to go to, and nothing in it that the source does not have. */
export function mailFindings(
  { mails, consent }: RouteDocument,
  source: SourceDocument,
  knowledge: SourceField[],
): Finding[] {
  return mails.flatMap((mail) => [
    ...wordFindings(mail, source),
    ...whomFindings(mail, source),
    ...conditionFindings(mail.when, source.fields, { part: 'mails', what: 'A mail goes out', knowledge }),
    ...(mail.after === 'confirmed' && consent.confirmedBy.by !== 'iwashi'
      ? [
          warning(
            'mails',
            `"${mail.subject}" waits for a confirmation, and Iwashi asks for none here: it goes out at once.`,
            'Choose that it goes out at once, or let Iwashi confirm.',
          ),
        ]
      : []),
  ]);
}

function wordFindings({ subject, body }: RouteMail, { fields }: SourceDocument): Finding[] {
  const findings: Finding[] = [];
  if (subject.trim() === '') findings.push(blocker('mails', 'A mail has no subject.', 'Write one.'));
  if (body.trim() === '') findings.push(blocker('mails', `"${subject}" has no text.`, 'Write one.'));
  const used = [...fieldsUsedIn(subject), ...fieldsUsedIn(body)].filter((id) => id !== ANSWERS);
  return [...findings, ...unknownFields(used, fields, { part: 'mails', what: `"${subject}"` })];
}

function whomFindings({ kind, to, subject }: RouteMail, { fields }: SourceDocument): Finding[] {
  if (kind === 'answer')
    return asksForAddress(fields)
      ? []
      : [
          blocker(
            'mails',
            `"${subject}" answers the visitor, and the source asks for no address.`,
            'Add an email field to the source, or take the answer away.',
          ),
        ];
  if (to.length === 0)
    return [blocker('mails', `"${subject}" tells nobody: it has no address.`, 'Enter the address of a colleague.')];
  const wrong = to.filter((address) => !parseEmail(address).ok);
  return wrong.length === 0
    ? []
    : [blocker('mails', `"${subject}" goes to "${wrong.join('", "')}", which is no address.`, 'Correct the address.')];
}
