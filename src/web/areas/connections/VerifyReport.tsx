import { CircleCheck, CircleDashed, CircleX } from 'lucide-react';
import type { VerifyResult } from '../../../contract/connection.ts';
import type { Abilities } from '../../../core/plan/index.ts';
import { Time } from '../../parts/Time.tsx';
import { plural } from '../../parts/words.ts';

const counted = (count: number, word: string) => `${count} ${count === 1 ? word : plural(word)}`;
const PLAIN: Abilities['calls'] = { list: 'list', group: 'group', kind: 'kind of record' };

interface VerifyReportProps {
  result: VerifyResult;
  calls: Abilities['calls'] | undefined;
  /** Takes another base URL, where one can be changed at once. */
  onUse?: (baseUrl: string) => void;
}

/** What verifying found: who answered and what came back, or what is wrong and what to do. */
export function VerifyReport({ result, calls, onUse }: VerifyReportProps) {
  if (result.ok && result.untried !== undefined) {
    return (
      <div role="status" className="flex gap-3 items-start">
        <CircleDashed size={20} className="text-muted shrink-0" aria-hidden="true" />
        <div>
          <p>
            <strong>Not tried yet</strong>: {result.account}.
          </p>
          <p>{result.untried}</p>
          <p className="text-muted">
            Looked at <Time at={result.at} />.
          </p>
        </div>
      </div>
    );
  }
  if (result.ok) {
    return (
      <div role="status" className="flex gap-3 items-start">
        <CircleCheck size={20} className="text-success shrink-0" aria-hidden="true" />
        <div>
          <p>
            <strong>Connected</strong> to <strong>{result.account}</strong>.
          </p>
          <p className="text-muted">
            {cameBack(result, calls ?? PLAIN)} Verified <Time at={result.at} />.
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
        {result.instead !== undefined && <Instead baseUrl={result.instead} onUse={onUse} />}
        <p className="text-muted text-sm">
          Tried <Time at={result.at} />
        </p>
      </div>
    </div>
  );
}

function Instead({ baseUrl, onUse }: { baseUrl: string; onUse: VerifyReportProps['onUse'] }) {
  if (!onUse)
    return (
      <p>
        Perhaps <code className="font-mono">{baseUrl}</code> is meant.
      </p>
    );
  return (
    <button type="button" className="btn btn-sm my-1" onClick={() => onUse(baseUrl)}>
      Use <span className="font-mono break-all">{baseUrl}</span>
    </button>
  );
}

/** In words, and only of what this kind of service has. */
function cameBack(
  { lists, groups, tags, fields, kinds }: Extract<VerifyResult, { ok: true }>,
  calls: Abilities['calls'],
): string {
  const parts = [
    ...(kinds > 0 ? [counted(kinds, calls.kind)] : []),
    ...(lists > 0 ? [counted(lists, calls.list)] : []),
    ...(groups > 0 ? [counted(groups, calls.group)] : []),
    ...(tags > 0 ? [counted(tags, 'tag')] : []),
    ...(fields > 0 ? [counted(fields, 'field')] : []),
  ];
  if (parts.length === 0) return '';
  const last = parts.pop() ?? '';
  return `${parts.length > 0 ? `${parts.join(', ')} and ` : ''}${last} came back.`;
}
