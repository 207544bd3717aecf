import { askCheck } from '../../check.ts';

export const boxGone = askCheck({
  code: 'the consent box is not in the source',
  level: 'blocker',
  why: 'Nobody could tick it, so nobody would go on.',
  find: ({ ask, hasBox }) =>
    hasBox
      ? []
      : [
          {
            message: `The tick box "${ask.tickField}" is not in the source.`,
            fix: 'Choose another tick box, or none.',
          },
        ],
});
