import type { NoticeView } from '../../contract/people.ts';
import { StateMark } from './StateMark.tsx';
import { Time } from './Time.tsx';

/** One thing that another system told us: what it means, or its own word where it means nothing to us. */
export function NoticeLine({ notice: { meaning, kind, at } }: { notice: NoticeView }) {
  return (
    <>
      {meaning ? <StateMark of="subscription" state={meaning} /> : <span className="font-mono text-sm">{kind}</span>} ·{' '}
      <Time at={at} />
    </>
  );
}
