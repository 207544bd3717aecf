import { ExternalLink } from 'lucide-react';
import type { SourceView } from '../../../contract/source.ts';
import { printFormToCopy } from '../../../core/formats/index.ts';
import type { FormDocument } from '../../../core/intake/index.ts';
import { CopyButton } from '../../parts/CopyButton.tsx';

/** The draft as a page would show it, and what to paste into the page once it is live. */
export function FormEvidence({ source, document }: { source: SourceView; document: FormDocument }) {
  // The preview's frame runs no script, so the form's one line of it is left out.
  const preview = printFormToCopy('/preview', document).replace(/<script>.*<\/script>/, '');
  const style =
    '<style>body{font:15px/1.5 sans-serif;padding:1rem;margin:0}label{display:block}input:not([type=checkbox],[type=radio]),select,textarea{width:100%;padding:.4rem;box-sizing:border-box;font:inherit}fieldset{border:0;padding:0}.field{margin:0 0 1rem}.part{margin:.3rem 0}.help{margin:.2rem 0;color:#555;font-size:.9em}</style>';
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-2">As a page shows it</h2>
        <iframe
          title="Preview of the form"
          className="w-full h-96 bg-white border border-base-300 rounded"
          sandbox=""
          srcDoc={`<!doctype html><html lang="en"><title>Preview</title>${style}<body>${preview}</body></html>`}
        />
        <p className="text-quiet text-sm mt-1">
          The page brings its own look. This is the draft; visitors get what is published.
        </p>
      </section>
      <section>
        <h2 className="font-semibold text-lg mb-2">Put it on your page</h2>
        {source.liveVersion === null ? (
          <p className="text-quiet">Publish it first; then the HTML to paste stands here.</p>
        ) : (
          <div className="flex flex-col gap-3">
            <p>Paste this where the form belongs, or send it to whoever looks after the page.</p>
            <div>
              <CopyButton text={source.html} label="Copy the HTML" />
            </div>
            <pre
              className="bg-base-200 p-2 text-xs font-mono whitespace-pre-wrap break-words max-h-48 overflow-auto rounded"
              tabIndex={0}
            >
              {source.html}
            </pre>
            <p className="break-all">
              Or link to the form&apos;s own page:{' '}
              <a className="plain-link" href={source.postUrl} target="_blank" rel="noreferrer">
                {source.postUrl} <ExternalLink size={13} className="inline" aria-label="(opens in a new window)" />
              </a>
            </p>
            <p className="text-quiet text-sm">
              The same address takes form posts and JSON, if a page already has its own form with these field names.
            </p>
          </div>
        )}
      </section>
    </div>
  );
}
