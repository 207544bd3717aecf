import { CHANNEL_WORDS, type Channel } from '../../../../consent/index.ts';
import type { SourceField } from '../../../../values/index.ts';
import { askCheck } from '../../check.ts';

const REACHES: Record<Channel, (field: SourceField) => boolean> = {
  email: ({ type }) => type === 'email',
  sms: ({ type }) => type === 'phone',
  phone: ({ type }) => type === 'phone',
  post: ({ type }) => type === 'postal address',
};

export const channelWithoutWhere = askCheck({
  code: 'a channel, and no field for where',
  level: 'warning',
  why: 'They agreed to be reached, and never said at which number or address.',
  find: ({ ask, hasBox, source }) =>
    ask.channels
      .filter((channel) => hasBox && channel !== 'email' && !source.fields.some(REACHES[channel]))
      .map((channel) => ({
        message: `People agree to be reached by ${CHANNEL_WORDS[channel]}, and the source does not ask where.`,
        fix: 'Add such a field to the source, or take the channel off.',
      })),
});
