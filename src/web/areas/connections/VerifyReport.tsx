import { CircleCheck, CircleX } from 'lucide-react';
import type { VerifyResult } from '../../../contract/connection.ts';
import { Time } from '../../parts/Time.tsx';

const counted = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`;

/** What verifying found: who answered and what came back, or what is wrong and what to do. */
export function VerifyReport({ result }: { result: VerifyResult }) {
  if (result.ok) {
    return (
      <div role="status" className="flex gap-3 items-start">
        <CircleCheck size={20} className="text-success shrink-0" aria-hidden="true" />
        <div>
          <p>
            <strong>Connected</strong> to the account <strong>{result.account}</strong>.
          </p>
          <p className="text-quiet">
            {counted(result.lists, 'list')}, {counted(result.groups, 'group')}, {counted(result.tags, 'tag')} and{' '}
            {counted(result.fields, 'field')} came back, <Time at={result.at} />.
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
