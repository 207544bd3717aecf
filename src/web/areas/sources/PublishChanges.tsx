import { Link } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import { fieldChanges, mayBreak, type FieldChange, type MadeDocument } from '../../../core/intake/index.ts';
import { useFieldUses } from '../../data/routes.ts';
import { printState } from './builder/previewStates.ts';

interface PublishChangesProps {
  source: SourceView;
  draft: MadeDocument;
  onPublish: () => void;
  onCancel: () => void;
}

const WORDS: Record<FieldChange['what'], string> = {
  added: 'is new',
  removed: 'is removed',
  renamed: 'has another field name',
  type: 'is of another type',
  required: 'changes whether it has to be answered',
  answers: 'has other answers',
  words: 'has another label',
};

/** Before changes go live: what visitors get now and will get, which fields change, and which routes that touches. */
export function PublishChanges({ source: { id, live, postUrl }, draft, onPublish, onCancel }: PublishChangesProps) {
  const uses = useFieldUses(id);
  if (live === null) return null;
  const changes = fieldChanges(live, draft);
  return (
    <div className="flex flex-col gap-4">
      {live.kind === 'form' && draft.kind === 'form' && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Shown title="Now" document={live} address={postUrl} />
          <Shown title="After publishing" document={draft} address={postUrl} />
        </div>
      )}
      <section aria-label="Fields that change">
        {changes.length === 0 ? (
          <p>No field changes: routes and pages go on as they do.</p>
        ) : (
          <ul className="flex flex-col gap-1">
            {changes.map((change) => {
              const touched = uses(change.id);
              return (
                <li key={`${change.id} ${change.what}`}>
                  <strong className="font-semibold">{change.label}</strong> {WORDS[change.what]}
                  {change.before !== '' && (
                    <span className="text-quiet">
                      {' '}
                      ({change.before} → {change.after})
                    </span>
                  )}
                  .
                  {change.what === 'renamed' &&
                    ' A page that has the form copied into it still sends the old name: copy the HTML again.'}
                  {touched.length > 0 && change.what !== 'added' && (
                    <span className={mayBreak(change) && change.what !== 'renamed' ? 'text-error' : 'text-quiet'}>
                      {' '}
                      Used by{' '}
                      {touched.map(({ route, what }, at) => (
                        <span key={route.id + what}>
                          {at > 0 && ', '}
                          <Link className="plain-link" to={`/routes/${route.id}`}>
                            {route.name}
                          </Link>{' '}
                          ({what})
                        </span>
                      ))}
                      .
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
        )}
      </section>
      <div className="flex gap-2">
        <button className="btn btn-primary" onClick={onPublish}>
          Publish
        </button>
        <button className="btn" onClick={onCancel}>
          Cancel
        </button>
      </div>
    </div>
  );
}

function Shown({ title, document, address }: { title: string; document: MadeDocument; address: string }) {
  if (document.kind !== 'form') return null;
  const { html, css } = printState(
    document,
    address,
    document.language === 'visitor' ? 'en' : document.language,
    'empty',
  );
  return (
    <figure>
      <figcaption className="font-semibold mb-1">{title}</figcaption>
      <iframe
        title={title}
        className="w-full h-72 bg-white border border-base-300 rounded"
        sandbox=""
        srcDoc={`<!doctype html><meta charset="utf-8"><title>${title}</title><style>body{margin:12px;font:14px/1.5 sans-serif}${css}</style>${html}`}
      />
    </figure>
  );
}
