import { CircleCheck, CircleX } from 'lucide-react';
import type { VerifyResult } from '../../../contract/connection.ts';
import { Time } from '../../parts/Time.tsx';

const counted = (count: number, one: string, many = `${one}s`) => `${count} ${count === 1 ? one : many}`;

/** What verifying found: who answered and what came back, or what is wrong and what to do. */
export function VerifyReport({ result }: { result: VerifyResult }) {
  if (result.ok) {
    return (
      <div role="status" className="flex gap-3 items-start">
        <CircleCheck size={20} className="text-success shrink-0" aria-hidden="true" />
        <div>
          <p>
            <strong>Connected</strong> to <strong>{result.account}</strong>.
          </p>
          <p className="text-quiet">
            {cameBack(result)} <Time at={result.at} />.
          </p>
        </div>
      </div>
    );
  }
  return (
    <div role="alert" className="flex gap-3 items-start">
      <CircleX size={20} className="text-error shrink-0" aria-hidden="true" />
      <div>
        <p className="font-semibold">{result.problem}</p>
        <p>{result.nextStep}</p>
        <p className="text-quiet text-sm">
          Tried <Time at={result.at} />
        </p>
      </div>
    </div>
  );
}

/** In words, and only of what this kind of service has. */
function cameBack({ lists, groups, tags, fields, kinds }: Extract<VerifyResult, { ok: true }>): string {
  const parts = [
    ...(kinds > 0 ? [counted(kinds, 'kind of record', 'kinds of record')] : []),
    ...(lists > 0 ? [counted(lists, 'list')] : []),
    ...(groups > 0 ? [counted(groups, 'group')] : []),
    ...(tags > 0 ? [counted(tags, 'tag')] : []),
    ...(fields > 0 ? [counted(fields, 'field')] : []),
  ];
  if (parts.length === 0) return 'Verified';
  const last = parts.pop() ?? '';
  return `${parts.length > 0 ? `${parts.join(', ')} and ` : ''}${last} came back,`;
}
