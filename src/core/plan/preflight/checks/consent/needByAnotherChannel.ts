import { CHANNEL_WORDS } from '../../../../consent/index.ts';
import type { Check } from '../../check.ts';

export const needByAnotherChannel: Check = {
  code: 'a target needs consent by a channel that nobody is asked for',
  level: 'blocker',
  why: 'Nobody could give it, so nobody would go there.',
  find: ({ document: { targets, consent } }) =>
    targets.flatMap(({ needs }, index) => {
      const ask = consent.asks.find(({ id }) => id === needs?.ask);
      return needs && ask && !ask.channels.includes(needs.channel)
        ? [
            {
              part: 'consent' as const,
              target: index,
              message: `A target needs consent by ${CHANNEL_WORDS[needs.channel]}, and nobody is asked for that.`,
              fix: 'Ask for it, or choose another channel.',
            },
          ]
        : [];
    }),
};
