import { fieldsUsedIn } from '../../../../mapping/index.ts';
import { ANSWERS } from '../../../mailing.ts';
import { unknownAmong } from '../../unknownFields.ts';
import { mailCheck } from '../../check.ts';

export const mailUnknownField = mailCheck({
  code: 'a mail has in it what the source does not have',
  level: 'blocker',
  why: 'It is sent as it stands, braces and all.',
  find: ({ mail: { subject, body }, source }) =>
    unknownAmong(
      [...fieldsUsedIn(subject), ...fieldsUsedIn(body)].filter((id) => id !== ANSWERS),
      source.fields,
      `"${subject}"`,
    ),
});
