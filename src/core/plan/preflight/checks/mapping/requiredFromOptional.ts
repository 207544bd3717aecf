import { VISIT_FIELDS } from '../../../../intake/index.ts';
import { lineCheck } from '../../check.ts';

export const requiredFromOptional = lineCheck({
  code: 'required there, and may be empty here',
  level: 'warning',
  why: 'Whoever leaves it empty is held until somebody decides.',
  find: ({ field, from, line: { whenEmpty } }) => {
    const isFilled = whenEmpty.kind === 'value' && whenEmpty.value !== '';
    if (!field.required || !from || from.required || from.widget === 'hidden' || isFilled) return [];
    const [why, fix] = VISIT_FIELDS.includes(from)
      ? [`not every submission says its ${from.label}.`, 'Choose a field that everybody fills in.']
      : [
          `visitors may leave ${from.label} empty.`,
          `Make ${from.label} required in the source, or say what is sent instead.`,
        ];
    return [{ message: `${field.label} is required there, but ${why}`, fix }];
  },
});
