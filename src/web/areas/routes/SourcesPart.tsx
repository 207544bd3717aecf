import { X } from 'lucide-react';
import { Link } from 'react-router';
import type { SourceLine } from '../../../contract/entries.ts';
import type { SourceView } from '../../../contract/source.ts';
import { Chooser } from '../../parts/Chooser.tsx';

interface SourcesPartProps {
  /** Those that it takes from. */
  own: SourceView[];
  /** Every source there is. */
  choices: SourceLine[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Where a route takes its submissions from: one source, or several with the same fields. */
export function SourcesPart({ own, choices, chosen, onChange }: SourcesPartProps) {
  const others = choices.filter(({ id, archivedAt }) => !chosen.includes(id) && archivedAt === null);
  return (
    <section aria-labelledby="sources" className="flex flex-col gap-4">
      <h3 id="sources" className="text-lg font-semibold">
        Where it comes from
      </h3>
      <ul className="flex flex-col gap-2">
        {own.map(({ id, name, draft }) => (
          <li key={id} className="box px-3 py-2 flex items-center gap-3">
            <Link to={`/sources/${id}`} className="plain-link font-semibold">
              {name}
            </Link>
            <span className="text-muted">{draft.fields.length} fields</span>
            {own.length > 1 && (
              <button
                className="btn btn-ghost btn-xs btn-square ml-auto"
                aria-label={`Take nothing from ${name}`}
                onClick={() => onChange(chosen.filter((one) => one !== id))}
              >
                <X size={13} aria-hidden="true" />
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {own.length === 1 && (
            <Chooser
              label="Take from another source instead"
              placeholder="replace with…"
              items={others}
              value=""
              onChange={(id) => onChange([id])}
              className="w-56"
            />
          )}
          <Chooser
            label="Take from another source as well"
            placeholder="add a source…"
            items={others}
            value=""
            onChange={(id) => onChange([...chosen, id])}
            className="w-56"
          />
        </div>
      )}
      <p className="text-muted text-sm">
        Lines and conditions stay with the fields they name: what the new source does not have is said in the preflight.
      </p>
    </section>
  );
}
