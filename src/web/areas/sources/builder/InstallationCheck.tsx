import { Check, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import { isMeantFor, type Showing } from '../../../../core/showing/index.ts';
import { useInstallation } from '../../../data/sources.ts';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { ActionError } from '../../../parts/States.tsx';
import { Time } from '../../../parts/Time.tsx';

interface InstallationCheckProps {
  source: SourceView;
  sites: string[];
  showing: Showing;
}

/** The first page of each site, or else the pages that are named; where those are patterns alone, a person names one. */
function pagesToVisit(sites: string[], showing: Showing): string[] {
  const named = showing.pages.filter((one) => one.startsWith('/') && !one.includes('*'));
  const all = sites.flatMap((site) => [`${site}/`, ...named.map((page) => `${site}${page}`)]);
  return all.filter((page) => isMeantFor(showing, page)).slice(0, 10);
}

/** Visits the pages that the form is to be on, and says what is there. */
export function InstallationCheck({ source, sites, showing }: InstallationCheckProps) {
  const [pages, setPages] = useState(() => pagesToVisit(sites, showing));
  const check = useInstallation(source.id);
  return (
    <section aria-label="Check the installation">
      <h3 className="font-semibold">Is it there?</h3>
      <p className="text-muted text-sm mb-1">Pages that it is to be on, one a line. They are visited from here.</p>
      <LinesInput lines={pages} onChange={setPages} rows={2} aria-label="Pages that it is to be on" />
      <button
        className="btn btn-sm mt-1"
        disabled={pages.length === 0 || check.isPending}
        onClick={() => check.mutate(pages)}
      >
        {check.isPending ? 'Visiting…' : 'Check the installation'}
      </button>
      <ActionError error={check.error} />
      <div role="status">
        {check.data?.map(({ page, findings, heardAt }) => (
          <div key={page} className="mt-2">
            <p className="font-semibold break-all">{page}</p>
            <ul>
              {findings.map(({ ok, found, fix }) => (
                <li key={found} className="flex gap-1.5 items-start">
                  {ok ? (
                    <Check size={15} className="text-success mt-1 shrink-0" aria-label="Good:" />
                  ) : (
                    <TriangleAlert size={15} className="text-error mt-1 shrink-0" aria-label="Wrong:" />
                  )}
                  <span className="break-words min-w-0">
                    {found} {fix}
                  </span>
                </li>
              ))}
            </ul>
            <p className="text-muted text-sm">
              {heardAt === null ? (
                'The script has never asked from this site: no visitor with it was there yet.'
              ) : (
                <>
                  The script on this site last asked <Time at={heardAt} />.
                </>
              )}
            </p>
          </div>
        ))}
      </div>
    </section>
  );
}
