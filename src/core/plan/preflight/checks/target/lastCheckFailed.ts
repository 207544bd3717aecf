import { targetCheck } from '../../check.ts';

export const lastCheckFailed = targetCheck({
  code: 'the last check of the connection failed',
  level: 'warning',
  why: 'If the connection check fails, deliveries will fail too.',
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
