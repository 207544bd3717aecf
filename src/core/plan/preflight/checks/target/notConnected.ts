import type { Check } from '../../check.ts';

export const notConnected: Check = {
  code: 'no verified connection',
  level: 'blocker',
  why: 'What the destination offers is not known, and nothing can be sent to it.',
  find: ({ document, catalogues, connections }) =>
    document.targets.flatMap(({ connectionId }, index) =>
      catalogues[connectionId]
        ? []
        : [
            {
              part: 'target' as const,
              target: index,
              message: 'The target has no verified connection.',
              ...(connections[connectionId]
                ? { fix: 'Verify it.', connectionId }
                : { fix: 'Take the target away, or add one to another connection.' }),
            },
          ],
    ),
};
