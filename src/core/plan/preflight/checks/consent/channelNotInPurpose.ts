import { CHANNEL_WORDS } from '../../../../consent/index.ts';
import { askCheck } from '../../check.ts';

export const channelNotInPurpose = askCheck({
  code: 'a channel that the purpose does not have',
  level: 'blocker',
  why: 'The purpose says how people are reached for it; what is asked beyond that is used for nothing.',
  find: ({ ask, hasBox, purpose }) =>
    ask.channels
      .filter((channel) => hasBox && purpose && !purpose.channels.includes(channel))
      .map((channel) => ({
        message: `Nobody is reached by ${CHANNEL_WORDS[channel]} for "${purpose?.name}".`,
        fix: `Take ${CHANNEL_WORDS[channel]} off, or add it to the purpose.`,
      })),
});
