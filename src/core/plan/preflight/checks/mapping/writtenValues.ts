import { fitValue } from '../../../../mapping/index.ts';
import { lineCheck } from '../../check.ts';

export const writtenValues = lineCheck({
  code: 'a written value is not taken there',
  level: 'blocker',
  why: 'It is the same for everybody, so that it would be wrong for everybody.',
  find: ({ line, field }) => {
    const { from, whenEmpty } = line;
    const fixed = from.kind === 'fixed' ? from.value : '';
    const instead = whenEmpty.kind === 'value' ? whenEmpty.value : '';
    return [
      { value: fixed, what: 'The fixed value', fix: 'Enter one that it takes.' },
      {
        value: instead,
        what: 'What is sent where nothing came,',
        fix: 'Enter one that it takes, or send nothing.',
      },
    ].flatMap(({ value, what, fix }) => {
      const fits = value === '' ? null : fitValue(field, value);
      return fits === null || fits.ok
        ? []
        : [{ message: `${what} "${value}" does not fit: ${field.label} ${fits.issue}`, fix }];
    });
  },
});
