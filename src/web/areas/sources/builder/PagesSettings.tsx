import type { SourceView } from '../../../../contract/source.ts';
import { inSentence } from '../../../../core/conditions/index.ts';
import { THE_END, type FormPage } from '../../../../core/forms/index.ts';
import { useWays } from '../../../data/sources.ts';
import { TickBox } from '../../../parts/TickBox.tsx';
import { askableBefore } from './askable.ts';
import { PathMap } from './PathMap.tsx';
import { stopsOf, waysBetween } from './pathMap.ts';
import type { SettingsProps } from './settingsProps.ts';

interface PagesSettingsProps extends SettingsProps {
  source: SourceView;
  onSelect: (id: string) => void;
}

/** The pages of the form, where each leads, and how many went there. */
export function PagesSettings({ source, document, set, known, onSelect }: PagesSettingsProps) {
  const stops = stopsOf(document);
  const pages = stops.filter(({ page }) => page !== null);
  const isBranched = stops.length > 2;
  const taken = useWays(source.id, isBranched);
  const ways = waysBetween(document, taken.data?.ways ?? []);
  const { all } = askableBefore(document, null, known);
  const nameOf = (id: string) => stops.find((stop) => stop.id === id)?.name ?? 'a page that is gone';
  return (
    <div className="flex flex-col gap-4">
      {!isBranched && (
        <p className="text-muted">
          All of it stands on one page. A new page begins where you add one, by “text, picture” above the form.
        </p>
      )}
      {isBranched && (
        <>
          <PathMap stops={stops} ways={ways} />
          <p className="text-muted text-sm">
            The more went there, the thicker the line: of those who sent it in the last {taken.data?.days ?? 30} days.
          </p>
        </>
      )}
      <ol className="flex flex-col gap-2">
        {pages.map(({ id, name, page }, at) => (
          <li key={id} className="border border-base-300 rounded p-3">
            <div className="flex gap-2 items-baseline">
              {at === 0 ? (
                <strong className="font-semibold">{name}</strong>
              ) : (
                <button className="plain-link font-semibold" onClick={() => onSelect(id)}>
                  {name}
                </button>
              )}
              <span className="text-muted text-sm ml-auto">{page && countOf(page)}</span>
            </div>
            {page?.shownIf && <p className="text-sm">Only if {inSentence(page.shownIf, all)}.</p>}
            <ul className="text-sm">
              {page?.skips.map(({ id: skip, when, to }) => (
                <li key={skip}>
                  {when ? `If ${inSentence(when, all)}: ` : 'Always: '}
                  {to === THE_END ? 'it is sent' : `to ${nameOf(to)}`}
                </li>
              ))}
            </ul>
            <table className="text-sm w-full mt-1">
              <caption className="sr-only">Where {name} led</caption>
              <tbody>
                {ways
                  .filter(({ from }) => from === id)
                  .map(({ to, count }) => (
                    <tr key={to}>
                      <th scope="row" className="font-normal text-start text-muted">
                        to {nameOf(to)}
                      </th>
                      <td className="text-end tabular-nums">{count}</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </li>
        ))}
      </ol>
      <TickBox
        label="Visitors can leave it half filled in, and go on later by a link"
        checked={document.goOnLater}
        onChange={(goOnLater) => set({ goOnLater })}
      />
      {document.goOnLater && (
        <p className="text-muted text-sm">
          What they entered is kept for 30 days, and forgotten once it is sent. Files have to be chosen again.
        </p>
      )}
    </div>
  );
}

function countOf({ items }: FormPage): string {
  const count = items.filter(({ kind }) => kind === 'question').length;
  return count === 1 ? '1 question' : `${count} questions`;
}
