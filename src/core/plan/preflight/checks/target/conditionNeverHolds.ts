import { testsIn, type Condition } from '../../../../conditions/index.ts';
import { factFields } from '../../../../intake/index.ts';
import { answersOf } from '../../../../values/index.ts';
import { conditionsIn } from '../../../route.ts';
import type { Check, Checked, Found } from '../../check.ts';

/** What is compared with an answer that nobody can give. */
function strangeTests(when: Condition, { source }: Checked): string[] {
  const fields = factFields(source.fields);
  return testsIn(when).flatMap(({ field: id, test, value }) => {
    const field = fields.find((one) => one.id === id);
    const answers = field ? answersOf(field).map((answer) => answer.toLowerCase()) : [];
    const asked = test === 'is one of' ? value.split(',') : test === 'is' || test === 'is not' ? [value] : [];
    const strange = asked.map((one) => one.trim()).filter((one) => one !== '' && !answers.includes(one.toLowerCase()));
    return field && answers.length > 0 && strange.length > 0
      ? [`${field.label} is compared with "${strange.join('", "')}", which is none of its answers.`]
      : [];
  });
}

export const conditionNeverHolds: Check = {
  code: 'a condition asks for what is no answer',
  level: 'warning',
  why: 'It never holds, or always does: the part of the route that it decides about goes to nobody, or to everybody.',
  find: (checked) => {
    const { targets, mails } = checked.document;
    const saying = (when: Condition, where: Pick<Found, 'part' | 'target'>): Found[] =>
      strangeTests(when, checked).map((message) => ({ ...where, message, fix: 'Choose one of the answers.' }));
    return [
      ...targets.flatMap((target, index) =>
        conditionsIn(target).flatMap((when) => saying(when, { part: 'target', target: index })),
      ),
      ...mails.flatMap(({ when }) => (when ? saying(when, { part: 'mails' }) : [])),
    ];
  },
};
