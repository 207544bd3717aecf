import { X } from 'lucide-react';
import { Link } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';

interface SourcesPartProps {
  sources: SourceView[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Where a route takes its submissions from: one source, or several with the same fields. */
export function SourcesPart({ sources, chosen, onChange }: SourcesPartProps) {
  const own = sources.filter(({ id }) => chosen.includes(id));
  const others = sources.filter(({ id }) => !chosen.includes(id));
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
            <span className="text-quiet">{draft.fields.length} fields</span>
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
            <Choice
              label="Take from another source instead"
              hint="replace with…"
              sources={others}
              onChoose={(id) => onChange([id])}
            />
          )}
          <Choice
            label="Take from another source as well"
            hint="add a source…"
            sources={others}
            onChoose={(id) => onChange([...chosen, id])}
          />
        </div>
      )}
      <p className="text-quiet text-sm">
        Lines and conditions stay with the fields they name: what the new source does not have is said in the preflight.
      </p>
    </section>
  );
}

function Choice({
  label,
  hint,
  sources,
  onChoose,
}: {
  label: string;
  hint: string;
  sources: SourceView[];
  onChoose: (id: string) => void;
}) {
  return (
    <select
      className="select select-sm w-auto"
      aria-label={label}
      value=""
      onChange={(event) => onChoose(event.target.value)}
    >
      <option value="">{hint}</option>
      {sources.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}
