import { targetCheck } from '../../check.ts';

export const tooSlow = targetCheck({
  code: 'the destination is slower than the source',
  level: 'warning',
  why: 'What comes faster than it may be sent waits in a queue that grows, and people arrive hours late.',
  find: ({ connection, pace }) => {
    const most = connection?.perMinute ?? null;
    return most !== null && pace > most
      ? [
          {
            part: 'target',
            message: `${connection?.name ?? 'It'} takes ${most} a minute, and the source brought more in its busiest minute today.`,
            fix: 'Ask for a higher limit there, or expect people to arrive late.',
          },
        ]
      : [];
  },
});
