import type { NoticeView } from '../../../contract/people.ts';
import type { NoticeRecord } from '../../store/notices.ts';

export const noticeView = ({ at, ...notice }: NoticeRecord): NoticeView => ({
  ...notice,
  at: new Date(at).toISOString(),
});
