import type { Check, Checked, Found } from '../../check.ts';

/** The tick boxes that give consent, with what each is asked for. */
const boxesOf = ({ document, source }: Checked) =>
  document.consent.asks.flatMap((ask) => {
    const field = source.fields.find(({ id }) => id === ask.tickField);
    return field ? [{ ask, field }] : [];
  });

export const tickedAlready: Check = {
  code: 'a consent box is ticked already',
  level: 'blocker',
  why: 'Whoever does not untick a box has said nothing. Consent is given by an act of the person (GDPR, recital 32).',
  find: (checked) =>
    boxesOf(checked)
      .filter(({ field }) => field.preset !== '' && !/^(no|0|false|off)$/i.test(field.preset.trim()))
      .map(({ field }): Found => ({
        part: 'consent',
        message: `"${field.label}" is ticked before anybody saw it, so it proves nothing.`,
        fix: 'Empty what it holds at first, in the source, and publish it.',
      })),
};

export const oneTickForTwo: Check = {
  code: 'one tick for two purposes',
  level: 'warning',
  why: 'Consent is asked for each purpose by itself: whoever wants one of them only cannot say so (GDPR, recital 43).',
  find: (checked) => {
    const boxes = boxesOf(checked);
    return boxes
      .filter(({ ask }, index) =>
        boxes
          .slice(0, index)
          .some((other) => other.ask.tickField === ask.tickField && other.ask.purpose !== ask.purpose),
      )
      .map(({ field }): Found => ({
        part: 'consent',
        message: `One tick, "${field.label}", gives consent to two purposes.`,
        fix: 'Give each purpose a box of its own.',
      }));
  },
};
