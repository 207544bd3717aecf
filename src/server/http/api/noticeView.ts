import type { NoticeView } from '../../../contract/people.ts';
import type { InboundEventRecord } from '../../store/inboundEvents.ts';

export const noticeView = ({ at, ...notice }: InboundEventRecord): NoticeView => ({
  ...notice,
  at: new Date(at).toISOString(),
});
