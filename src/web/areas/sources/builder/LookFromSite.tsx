import { useState } from 'react';
import type { Look } from '../../../../core/forms/index.ts';
import { useFindLook } from '../../../data/themes.ts';
import { Field } from '../../../parts/Field.tsx';
import { ActionError } from '../../../parts/States.tsx';

/** Reads a look from a page of the web, or from CSS, and shows it before it is taken. */
export function LookFromSite({ onTake }: { onTake: (look: Look) => void }) {
  const [url, setUrl] = useState('');
  const [css, setCss] = useState('');
  const find = useFindLook();
  const { data } = find;
  return (
    <div className="flex flex-col gap-3">
      <Field label="Address of a page" help="Its style sheets are read, once; what its scripts do is not seen.">
        <input
          className="input w-full"
          value={url}
          placeholder="https://"
          onChange={({ target }) => setUrl(target.value.trim())}
        />
      </Field>
      <Field label="Or its CSS">
        <textarea
          className="textarea w-full font-mono"
          rows={4}
          value={css}
          spellCheck={false}
          onChange={({ target }) => setCss(target.value)}
        />
      </Field>
      <button
        className="btn btn-sm self-start"
        disabled={find.isPending || (url === '' && css.trim() === '')}
        onClick={() => find.mutate({ url, css: css.trim() })}
      >
        {find.isPending ? 'Reading it' : 'Read it'}
      </button>
      <ActionError error={find.error} />
      {data && (
        <section aria-label="The look that was found" className="flex flex-col gap-3 border-t border-base-300 pt-3">
          <Sample look={data.look} />
          <ul className="text-sm">
            {data.found.length === 0 && <li>Nothing of it says how it looks: this is our own look.</li>}
            {data.found.map((one) => (
              <li key={one}>{one}</li>
            ))}
          </ul>
          {data.changed.length > 0 && (
            <div className="text-sm">
              <p className="font-semibold">Changed, so that everybody can read it</p>
              <ul>
                {data.changed.map((one) => (
                  <li key={one}>{one}</li>
                ))}
              </ul>
            </div>
          )}
          <button className="btn btn-sm btn-primary self-start" onClick={() => onTake(data.look)}>
            Take it
          </button>
        </section>
      )}
    </div>
  );
}

/** A few words, an input and a button as they would look. */
function Sample({ look: { colours, radius, size } }: { look: Look }) {
  return (
    <div
      aria-hidden="true"
      className="border border-base-300 p-4 flex items-center gap-3"
      style={{ background: colours.ground || '#ffffff', color: colours.ink, fontSize: size }}
    >
      <span>Email</span>
      <span
        className="grow border px-2 py-1"
        style={{ borderColor: colours.line, borderRadius: radius, color: colours.quiet }}
      >
        name@example.org
      </span>
      <span
        className="px-3 py-1 font-semibold"
        style={{ background: colours.action, color: colours.onAction, borderRadius: radius }}
      >
        Sign up
      </span>
    </div>
  );
}
