import { Check, TriangleAlert } from 'lucide-react';
import { useSilence } from '../../data/insight.ts';
import { saying } from '../../data/api.ts';

/** What was looked at to find out why nothing comes of a source any more. */
export function WhySilent({ id }: { id: string }) {
  const silence = useSilence(id);
  if (silence.isPending) return <p className="text-muted text-sm">Looking at its pages to find out why…</p>;
  if (silence.error) return <p className="text-muted text-sm">{saying(silence.error)}</p>;
  return (
    <ul className="text-sm max-w-prose">
      {silence.data.findings.map(({ ok, found }) => (
        <li key={found} className="flex gap-1.5">
          {ok ? (
            <Check size={14} className="shrink-0 mt-0.5 text-muted" aria-label="not that" />
          ) : (
            <TriangleAlert size={14} className="shrink-0 mt-0.5 text-error" aria-label="look at this" />
          )}
          <span className={ok ? 'text-muted' : ''}>{found}</span>
        </li>
      ))}
    </ul>
  );
}
