import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { FoundForm } from '../../../core/formats/index.ts';
import { saying } from '../../../core/forms/index.ts';
import { FIRST_START, plainFace, type FormDocument } from '../../../core/intake/index.ts';
import { useFoundForms, useTakeOver } from '../../data/importing.ts';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { requestTo } from './requestTo.ts';

/** Takes over a form that exists elsewhere: its fields become a source that takes what the old markup sends. */
export function TakeOver({ onDone }: { onDone: () => void }) {
  const [html, setHtml] = useState('');
  const [url, setUrl] = useState('');
  const found = useFoundForms();
  return (
    <div className="flex flex-col gap-4">
      <p>
        Paste the HTML of a page, or name the page. Each form in it can become a source with the same field names, so
        that the old form goes on working: only its address changes.
      </p>
      <Field label="HTML">
        <textarea
          className="textarea w-full font-mono text-xs"
          rows={5}
          spellCheck={false}
          value={html}
          onChange={({ target }) => setHtml(target.value)}
        />
      </Field>
      <Field label="Or the address of the page">
        <input
          className="input w-full"
          placeholder="https://"
          value={url}
          onChange={({ target }) => setUrl(target.value.trim())}
        />
      </Field>
      <div className="flex gap-2">
        <button
          className="btn btn-primary"
          disabled={found.isPending || (html.trim() === '' && url === '')}
          onClick={() => found.mutate({ html, url })}
        >
          Look for forms
        </button>
        <button className="btn" onClick={onDone}>
          Cancel
        </button>
      </div>
      <ActionError error={found.error} />
      {found.data?.length === 0 && (
        <p role="status">There is no form in it. If one is seen on the page, a script makes it: build it anew here.</p>
      )}
      {found.data?.map((form, at) => (
        <Found key={at} form={form} page={url} onDone={onDone} />
      ))}
    </div>
  );
}

function Found({ form, page, onDone }: { form: FoundForm; page: string; onDone: () => void }) {
  const [name, setName] = useState(form.name || 'Form taken over');
  const take = useTakeOver();
  const navigate = useNavigate();
  const line = requestTo(form, page);
  return (
    <section className="box p-3 flex flex-col gap-2" aria-label={name}>
      <Field label="Name of the source">
        <input className="input input-sm w-full" value={name} onChange={({ target }) => setName(target.value)} />
      </Field>
      <p className="text-muted text-sm break-all">Sent now to {form.action === '' ? 'the page itself' : form.action}</p>
      <table className="table table-xs">
        <thead className="text-muted">
          <tr>
            <th scope="col">Field name</th>
            <th scope="col">Label</th>
            <th scope="col">Type</th>
          </tr>
        </thead>
        <tbody>
          {form.fields.map(({ key, label, type, widget, required }) => (
            <tr key={key}>
              <td className="font-mono">{key}</td>
              <td>{label}</td>
              <td>
                {type}
                {widget === 'hidden' && ', hidden'}
                {required && ', required'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {form.unseen.map((what) => (
        <p key={what} className="text-warning">
          {what}
        </p>
      ))}
      <div>
        <button
          className="btn btn-sm btn-primary"
          disabled={form.fields.length === 0 || name.trim() === '' || take.isPending}
          onClick={() =>
            take.mutate(
              { name: name.trim(), document: documentOf(form) },
              {
                onSuccess: ({ id }) => {
                  onDone();
                  void navigate(`/sources/${id}`);
                },
              },
            )
          }
        >
          Make it a source
        </button>{' '}
        <button
          className="btn btn-sm"
          disabled={line === null}
          onClick={() => {
            onDone();
            void navigate('/connections/own?from=curl', { state: { line } });
          }}
        >
          Post to it, as a destination
        </button>
        {line === null && (
          <p className="text-muted text-sm mt-1">
            It cannot be posted to from here: it is not said at which whole address it is sent, or no program sends it.
          </p>
        )}
      </div>
      <ActionError error={take.error} />
    </section>
  );
}

/** A form with what was found, and otherwise as a new one. */
function documentOf({ name, fields, button }: FoundForm): FormDocument {
  const start = FIRST_START.document;
  return {
    ...start,
    ...plainFace(fields),
    title: name,
    fields,
    button: button || start.button,
    ending: saying(''),
  };
}
