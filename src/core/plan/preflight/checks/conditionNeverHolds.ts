import type { Condition } from '../../../conditions/index.ts';
import { factFields } from '../../../intake/index.ts';
import type { Check, Checked, Found } from '../check.ts';
import { answersOf } from './answers.ts';

type FieldTest = Extract<Condition, { kind: 'test' }>;
const testsIn = (when: Condition | null): FieldTest[] =>
  when === null ? [] : when.kind === 'test' ? [when] : when.of.flatMap(testsIn);

/** What is compared with an answer that nobody can give. */
function strangeTests(when: Condition | null, { source }: Checked): string[] {
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
    const inTargets = targets.flatMap(({ when, places, tags }, index) =>
      [when, ...places.map((place) => place.when), ...tags.map((tag) => tag.when)]
        .flatMap((one) => strangeTests(one, checked))
        .map((message): Found => ({ part: 'target', target: index, message, fix: 'Choose one of the answers.' })),
    );
    const inMails = mails
      .flatMap(({ when }) => strangeTests(when, checked))
      .map((message): Found => ({ part: 'mails', message, fix: 'Choose one of the answers.' }));
    return [...inTargets, ...inMails];
  },
};
