import { targetCheck } from '../../check.ts';

export const lastCheckFailed = targetCheck({
  code: 'the last check of the connection failed',
  level: 'warning',
  why: 'What goes wrong when we ask who we are goes wrong when people are sent there.',
  find: ({ target: { connectionId }, connection }) =>
    connection?.state === 'active' && connection.trouble && connection.trouble.lacks.length === 0
      ? [
          {
            part: 'target',
            message: `When ${connection.name} was last checked: ${connection.trouble.problem}`,
            fix: connection.trouble.nextStep,
            connectionId,
          },
        ]
      : [],
});
