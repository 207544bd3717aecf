import { fieldsAskedFor } from '../../../../conditions/index.ts';
import { fieldsUsed, fieldsUsedIn } from '../../../../mapping/index.ts';
import { isTick } from '../../../../values/index.ts';
import { ALL_ANSWERS } from '../../../mailing.ts';
import { conditionsIn, type RouteDocument } from '../../../route.ts';
import type { Check } from '../../check.ts';

/** The ids of the fields that something of a route uses. */
function fieldsUsedBy({ targets, mails }: RouteDocument): Set<string> {
  return new Set([
    ...targets.flatMap((target) => [
      ...target.lines.flatMap(fieldsUsed),
      ...conditionsIn(target).flatMap(fieldsAskedFor),
    ]),
    ...mails.flatMap(({ subject, body, when }) => [
      ...fieldsUsedIn(subject),
      ...fieldsUsedIn(body),
      ...(when ? fieldsAskedFor(when) : []),
    ]),
  ]);
}

export const goesNowhere: Check = {
  code: 'answers go nowhere',
  level: 'hint',
  why: 'What visitors took the trouble to answer is not where the colleagues look for it.',
  find: ({ document, source, catalogues }) => {
    const isSentByItself = document.targets.every(({ connectionId }) => catalogues[connectionId]?.can.takesAddress);
    if (document.targets.length === 0 || document.mails.some(({ body }) => body.includes(ALL_ANSWERS))) return [];
    const used = fieldsUsedBy(document);
    return source.fields
      .filter((field) => !isTick(field) && !used.has(field.id) && !(field.type === 'email' && isSentByItself))
      .map(({ label }) => ({
        part: 'mapping',
        message: `${label} goes nowhere: its answers stay in Iwashi.`,
        fix: 'Map it, or leave it if that is meant.',
      }));
  },
};
