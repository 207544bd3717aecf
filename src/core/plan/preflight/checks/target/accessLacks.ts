import { targetCheck } from '../../check.ts';

export const accessLacks = targetCheck({
  code: 'the access lacks a permission',
  level: 'warning',
  why: 'What it may not do there is refused: what it may write and not read cannot be proved.',
  find: ({ target: { connectionId }, connection }) =>
    connection?.trouble && connection.trouble.lacks.length > 0
      ? [
          {
            part: 'target',
            message: `The access to ${connection.name} may not do everything: it lacks ${connection.trouble.lacks.join(', ')}.`,
            fix: connection.trouble.nextStep,
            connectionId,
          },
        ]
      : [],
});
