import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { SourceView } from '../../../contract/source.ts';
import type { FormDocument, PostsDocument, MadeDocument } from '../../../core/intake/index.ts';
import { TRUSTS, type Trust } from '../../../core/values/index.ts';
import { usePublishing } from '../../data/publishing.ts';
import { useKeepSource } from '../../data/sources.ts';
import { Field } from '../../parts/Field.tsx';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { PublishBar } from '../../parts/PublishBar.tsx';
import { useDraft } from '../../parts/useDraft.ts';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { FieldsEditor } from './FieldsEditor.tsx';
import { FormEvidence } from './FormEvidence.tsx';
import { PostsEvidence } from './PostsEvidence.tsx';

/** Builds a source: its fields and what happens around them, with what others see of it beside. */
export function SourceEditor({ source, list }: { source: SourceView; list: ReactNode }) {
  const draft = useDraft<MadeDocument>({ document: source.draft, revision: source.draftAt }, useKeepSource(source.id));
  const publishing = usePublishing('sources', source.id);
  const { document, change, issues } = draft;
  const about = (pointer: string) =>
    issues.find((issue) => issue.pointer === pointer || issue.pointer.startsWith(`${pointer}/`))?.detail;
  const set = (part: Partial<FormDocument> | Partial<PostsDocument>) =>
    change({ ...document, ...part } as MadeDocument);
  useTellOpen(source.name, source.changed ? 'changed, not published' : source.state, 'changed', source.draftAt);
  return (
    <Working
      id="sources"
      leftLabel="Sources"
      left={list}
      rightLabel={document.kind === 'form' ? 'The form as visitors see it' : 'How programs send'}
      right={
        document.kind === 'form' ? (
          <FormEvidence source={source} document={document} />
        ) : (
          <PostsEvidence source={source} document={document} onFields={(fields) => set({ fields })} />
        )
      }
      middle={
        <>
          <PublishBar
            name={source.name}
            exportPath={`/sources/${source.id}/export`}
            view={source}
            draft={draft}
            publishing={publishing}
          />
          <div className="p-5 flex flex-col gap-7">
            <section aria-labelledby="fields">
              <h3 id="fields" className="text-lg font-semibold">
                Fields
              </h3>
              <p className="text-quiet mb-3">
                {document.kind === 'form'
                  ? 'The fewer you ask for, the more people sign up.'
                  : 'What is taken out of each payload. The whole payload is kept beside it.'}
              </p>
              <FieldsEditor
                kind={document.kind}
                fields={document.fields}
                liveIds={source.liveIds}
                onChange={(fields) => set({ fields })}
                about={about}
              />
              <div className="mt-4 max-w-md">
                <Field
                  label="What it says of people is trusted"
                  help="Beside what other sources say of the same person. It counts for fields that keep the most trusted."
                  error={about('/trust')}
                >
                  <select
                    className="select w-auto"
                    value={document.trust}
                    onChange={(event) => set({ trust: event.target.value as Trust })}
                  >
                    {TRUSTS.map((trust) => (
                      <option key={trust} value={trust}>
                        {TRUST_WORDS[trust]}
                      </option>
                    ))}
                  </select>
                </Field>
              </div>
            </section>
            {document.kind === 'form' ? (
              <FormParts document={document} set={set} about={about} />
            ) : (
              <PostsParts document={document} set={set} about={about} />
            )}
            <section aria-labelledby="routes-of">
              <h3 id="routes-of" className="text-lg font-semibold">
                Where it goes
              </h3>
              {source.routes.length === 0 ? (
                <p>
                  Nowhere yet: what arrives is kept here.{' '}
                  <Link className="plain-link" to={`/routes?new=${source.id}`}>
                    Wire it to a destination with a route.
                  </Link>
                </p>
              ) : (
                <ul>
                  {source.routes.map((route) => (
                    <li key={route.id}>
                      <Link className="plain-link" to={`/routes/${route.id}`}>
                        {route.name}
                      </Link>{' '}
                      <span className="text-quiet">{route.state}</span>
                    </li>
                  ))}
                </ul>
              )}
            </section>
          </div>
        </>
      }
    />
  );
}

const TRUST_WORDS: Record<Trust, string> = {
  less: 'less than usual',
  usual: 'as usual',
  more: 'more than usual',
};

interface PartsProps<Document> {
  document: Document;
  set: (part: Partial<Document>) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}

function FormParts({ document, set, about }: PartsProps<FormDocument>) {
  return (
    <>
      <section aria-labelledby="words" className="grid gap-4 sm:grid-cols-2">
        <h3 id="words" className="text-lg font-semibold sm:col-span-2">
          Words and afterwards
        </h3>
        <Field label="Button" error={about('/button')}>
          <input
            className="input w-full"
            value={document.button}
            onChange={(event) => set({ button: event.target.value })}
          />
        </Field>
        <Field
          label="Reset button"
          help="Its text: it puts the form back as it was shown. Most forms do without, since it is pressed by mistake."
          error={about('/resetLabel')}
        >
          <input
            className="input w-full"
            value={document.resetLabel}
            placeholder="none"
            onChange={(event) => set({ resetLabel: event.target.value })}
          />
        </Field>
        <Field
          label="Thank-you page"
          help="Its address; empty shows the message below on a plain page."
          error={about('/thankYouUrl')}
        >
          <input
            className="input w-full"
            value={document.thankYouUrl}
            placeholder="https://"
            onChange={(event) => set({ thankYouUrl: event.target.value.trim() })}
          />
        </Field>
        <Field label="Thank-you message" error={about('/thankYouMessage')}>
          <textarea
            className="textarea w-full"
            rows={2}
            value={document.thankYouMessage}
            onChange={(event) => set({ thankYouMessage: event.target.value })}
          />
        </Field>
        <Field
          label="Consent sentence beside the button"
          help="What people agree to by sending the form. Not needed with a tick box for it."
          error={about('/statement')}
        >
          <textarea
            className="textarea w-full"
            rows={2}
            value={document.statement}
            onChange={(event) => set({ statement: event.target.value })}
          />
        </Field>
      </section>
      <section aria-labelledby="guards" className="grid gap-4 sm:grid-cols-2">
        <h3 id="guards" className="text-lg font-semibold sm:col-span-2">
          Against robots and strangers
        </h3>
        <Field
          label="Sites it may be on"
          help="One a line, such as https://example.org. Empty: any site."
          error={about('/origins')}
        >
          <LinesInput lines={document.origins} onChange={(origins) => set({ origins })} rows={2} />
        </Field>
        <Field
          label="Shortest time to fill it in, in seconds"
          help="Faster ones are set aside for you to look at. A field that only robots see is always in the form."
          error={about('/minimumSeconds')}
        >
          <input
            type="number"
            min={0}
            max={60}
            className="input w-28"
            value={document.minimumSeconds}
            onChange={(event) => set({ minimumSeconds: event.target.valueAsNumber || 0 })}
          />
        </Field>
      </section>
    </>
  );
}

function PostsParts({ document, set, about }: PartsProps<PostsDocument>) {
  return (
    <section aria-labelledby="payload" className="grid gap-4 sm:grid-cols-2">
      <h3 id="payload" className="text-lg font-semibold sm:col-span-2">
        Payload and consent
      </h3>
      <Field
        label="One submission for each"
        help="A JSONPath, such as $.orders[*]; a field's path then begins with @ for what is in it. Empty: the payload is one submission."
        error={about('/each')}
      >
        <input
          className="input w-full font-mono"
          value={document.each}
          spellCheck={false}
          placeholder="$.orders[*]"
          onChange={(event) => set({ each: event.target.value.trim() })}
        />
      </Field>
      <Field
        label="What people agreed to there"
        help="The words that the other system shows when they send. Not needed with a field that says yes."
        error={about('/statement')}
      >
        <textarea
          className="textarea w-full"
          rows={3}
          value={document.statement}
          onChange={(event) => set({ statement: event.target.value })}
        />
      </Field>
    </section>
  );
}
