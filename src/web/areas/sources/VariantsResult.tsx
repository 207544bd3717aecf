import type { VariantsView } from '../../../contract/source.ts';
import type { Goal, Variant } from '../../../core/forms/index.ts';
import { useVariants } from '../../data/sources.ts';
import { figure } from '../../parts/figures.ts';

const REACHED: Record<Goal, string> = {
  completed: 'sent it',
  confirmed: 'confirmed',
  delivered: 'arrived',
  reached: 'came to the page',
};
const reachedWords = (kind: VariantsResultProps['kind'], goal: Goal): string =>
  kind === 'chat' && goal === 'completed' ? 'came to its end' : REACHED[goal];
const percent = (share: number | null, digits = 1): string =>
  share === null ? '–' : `${(100 * share).toFixed(digits)} %`;

interface VariantsResultProps {
  sourceId: string;
  kind: 'form' | 'chat';
  live: Pick<Variant<object>, 'id' | 'name'>[];
}

/** How the variants do that are live, and what follows from it. */
export function VariantsResult({ sourceId, kind, live }: VariantsResultProps) {
  const { data } = useVariants(sourceId);
  const nameOf = (id: string | undefined) => live.find((one) => one.id === id)?.name ?? '';
  if (!data)
    return (
      <p className="text-muted">
        {live.length === 0 ? 'Nothing is compared yet: the variants are not live.' : 'Nothing was counted yet.'}
      </p>
    );
  return (
    <section aria-labelledby="variants-result" className="border-t border-base-300 pt-3 flex flex-col gap-3">
      <h3 id="variants-result" className="font-semibold">
        Result
      </h3>
      <p role="status" className={data.differ ? 'font-semibold' : ''}>
        {verdictOf(data, nameOf)}
      </p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Figures of the variants">
        <table className="text-sm w-full">
          <thead>
            <tr className="text-muted text-start">
              <th className="text-start font-normal">Variant</th>
              <th className="text-end font-normal">{kind === 'chat' ? 'saw its button' : 'saw it'}</th>
              <th className="text-end font-normal">{reachedWords(kind, data.goal)}</th>
              <th className="text-end font-normal">share</th>
              <th className="text-end font-normal">is best</th>
            </tr>
          </thead>
          <tbody>
            {data.arms.map(({ met, reached, share, best }, at) => (
              <tr key={data.variants[at]}>
                <th scope="row" className="text-start">
                  {nameOf(data.variants[at])}
                </th>
                <td className="text-end tabular-nums">{figure(met)}</td>
                <td className="text-end tabular-nums">{figure(reached)}</td>
                <td className="text-end tabular-nums">{percent(share)}</td>
                <td className="text-end tabular-nums">{percent(best, 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ul className="text-sm text-muted">
        {data.arms.map(({ interval, loss }, at) => (
          <li key={data.variants[at]}>
            {nameOf(data.variants[at])}: between {percent(interval?.[0] ?? null)} and {percent(interval?.[1] ?? null)},
            with 95 % certainty. Keeping it costs {percent(loss, 2)} of those who see it, on average.
          </li>
        ))}
      </ul>
      <p className="text-sm text-muted">
        Look as often as you like: a difference that is none is told in 5 of 100 comparisons at most.
      </p>
    </section>
  );
}

/** What the figures say, in a sentence or two. */
function verdictOf(
  { arms, differ, needed, variants, days }: VariantsView,
  nameOf: (id: string | undefined) => string,
): string {
  const most = Math.max(...arms.map(({ best }) => best));
  const at = arms.findIndex(({ best }) => best === most);
  const name = nameOf(variants[at]);
  if (differ && most >= 0.95) return `${name} does better.`;
  if (differ) return 'They differ, but it is not clear yet which one is best.';
  if (arms.some(({ met }) => met === 0)) return 'Not enough yet: not every variant was seen.';
  if (needed === null) return 'Not enough yet: so far they do alike.';
  if (needed === 0) return `Not enough yet, though ${name} is ahead: the figures of the next days will tell.`;
  const pace = Math.min(...arms.map(({ met }) => met)) / Math.max(1, days);
  return `Not enough yet: about ${figure(needed)} more have to see each, which takes ${daysInWords(needed / pace)} at the present pace.`;
}

function daysInWords(days: number): string {
  if (days <= 1.5) return 'a day';
  return days > 730 ? 'years' : days > 60 ? `${Math.round(days / 30)} months` : `${Math.round(days)} days`;
}
