import type { Check } from '../../check.ts';

export const notConnected: Check = {
  code: 'no verified connection',
  level: 'blocker',
  why: 'What the destination offers is not known, and nothing can be sent to it.',
  find: ({ document, catalogues }) =>
    document.targets.flatMap(({ connectionId }, index) =>
      catalogues[connectionId]
        ? []
        : [
            {
              part: 'target' as const,
              target: index,
              message: 'The target has no verified connection.',
              fix: 'Choose a connection, and verify it.',
            },
          ],
    ),
};
