import { targetCheck } from '../../check.ts';

export const cannotBeRead = targetCheck({
  code: 'nobody can look there',
  level: 'hint',
  why: 'That something arrived is known by the answer of the service alone: nothing is read back and compared.',
  find: ({ catalogue, connection }) =>
    catalogue.can.readBack
      ? []
      : [
          {
            part: 'target',
            message: `What arrives in ${connection?.name ?? 'this destination'} cannot be read back from here.`,
            fix: 'Look there yourself after the first few, or connect with a key that may read.',
          },
        ],
});
