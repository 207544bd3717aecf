import { lineCheck, hasStep } from '../../check.ts';

export const flagFromWords = lineCheck({
  code: 'a flag is fed by words',
  level: 'warning',
  why: 'Only words such as yes, no, true and 1 can be read as a flag; everything else is left out.',
  find: (checked) => {
    const { field, from, type } = checked;
    const isWords = type === 'text' || type === 'long text' || type === 'choice';
    if (field.type !== 'yes/no' || !from || !isWords || hasStep(checked, 'yes/no', 'look-up')) return [];
    return [
      {
        message: `${field.label} takes yes or no, and ${from.label} gives words.`,
        fix: 'Add a look-up that says which of them means yes.',
        mend: { kind: 'look-up' as const, options: { pairs: [['yes', 'yes'] as const, ['no', 'no'] as const] } },
      },
    ];
  },
});
