import { Link } from 'react-router';
import {
  documentChanges,
  fieldChanges,
  mayBreak,
  type FieldChange,
  type MadeDocument,
} from '../../../core/intake/index.ts';
import { useFieldUses } from '../../data/routes.ts';
import { printState } from './builder/previewStates.ts';

interface ComparedProps {
  sourceId: string;
  /** The form's public address. */
  address: string;
  before: { title: string; document: MadeDocument };
  after: { title: string; document: MadeDocument };
}

const WORDS: Record<FieldChange['what'], string> = {
  added: 'is new',
  removed: 'is removed',
  renamed: 'has another field name',
  type: 'is of another type',
  required: 'changes whether it has to be answered',
  answers: 'has other answers',
  words: 'has another label',
  kept: 'is kept as another value of the contact',
  path: 'stands in another place',
  preset: 'holds something else before anybody answers',
  entered: 'looks or is entered otherwise',
};

/** Two states of a source: what visitors get of each, which fields differ, and which routes that touches. */
export function Compared({ sourceId, address, before, after }: ComparedProps) {
  const uses = useFieldUses(sourceId);
  const changes = fieldChanges(before.document, after.document);
  const parts = documentChanges(before.document, after.document);
  return (
    <>
      {before.document.kind === 'form' && after.document.kind === 'form' && (
        <div className="grid gap-3 sm:grid-cols-2">
          <Shown title={before.title} document={before.document} address={address} />
          <Shown title={after.title} document={after.document} address={address} />
        </div>
      )}
      {parts.length > 0 && (
        <section aria-label="What else changes">
          <h3 className="font-semibold mb-1">What visitors, pages and routes will notice</h3>
          <ul className="flex flex-col gap-1">
            {parts.map((part) => (
              <li key={part.what}>
                <strong className="font-semibold">{part.what}</strong>
                {part.before === '' && part.after === '' ? (
                  ' changes.'
                ) : (
                  <>
                    : {part.after} <span className="text-muted">(before: {part.before})</span>
                  </>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Fields that change">
        {changes.length === 0 ? (
          <p className="text-muted">
            {parts.length === 0 ? 'Nothing changes.' : 'The fields are the same, by their names and types.'}
          </p>
        ) : (
          <ul className="flex flex-col gap-1">
            {changes.map((change) => {
              const touched = uses(change.id);
              return (
                <li key={`${change.id} ${change.what}`}>
                  <strong className="font-semibold">{change.label}</strong> {WORDS[change.what]}
                  {change.before !== '' && (
                    <span className="text-muted">
                      {' '}
                      ({change.before} → {change.after})
                    </span>
                  )}
                  .
                  {change.what === 'renamed' &&
                    ' A page that has the form copied into it still sends the old name: copy the HTML again.'}
                  {touched.length > 0 && change.what !== 'added' && (
                    <span className={mayBreak(change) && change.what !== 'renamed' ? 'text-error' : 'text-muted'}>
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
    </>
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
