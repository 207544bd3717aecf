import type { ReactNode } from 'react';
import type { PartIssue } from '../../../contract/checks.ts';
import type { ConsentPolicy } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { Field } from '../../parts/Field.tsx';

interface ConsentPartProps {
  consent: ConsentPolicy;
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  issues: PartIssue[];
  onChange: (consent: ConsentPolicy) => void;
}

/** How people consent, in which words, and the mail by which they confirm. */
export function ConsentPart({ consent, fields, statement, issues, onChange }: ConsentPartProps) {
  const set = (part: Partial<ConsentPolicy>) => onChange({ ...consent, ...part });
  const setMail = (part: Partial<ConsentPolicy['mail']>) => set({ mail: { ...consent.mail, ...part } });
  const about = (part: string) => issues.find(({ pointer }) => pointer === `/consent/${part}`)?.detail;
  const ticks = fields.filter(({ type }) => type === 'yes/no');
  const words = ticks.find(({ id }) => id === consent.tickField)?.label ?? statement;
  return (
    <section aria-labelledby="consent" className="flex flex-col gap-4">
      <h3 id="consent" className="text-lg font-semibold">
        Consent
      </h3>
      <div className="grid gap-4 sm:grid-cols-2">
        <Field
          label="What it is for"
          help="As people know it. Consent for one purpose says nothing about another."
          error={about('purpose')}
        >
          <input
            className="input w-full"
            value={consent.purpose}
            onChange={(event) => set({ purpose: event.target.value })}
          />
        </Field>
        <Field
          label="Given by"
          help={words ? `People agree to: “${words}”` : 'Nothing says yet what people agree to.'}
          error={about('tickField')}
        >
          <select
            className="select w-full"
            value={consent.tickField}
            onChange={(event) => set({ tickField: event.target.value })}
          >
            <option value="">sending the form</option>
            {ticks.map(({ id, label }) => (
              <option key={id} value={id}>
                yes to: {label.length > 50 ? `${label.slice(0, 50)}…` : label}
              </option>
            ))}
          </select>
        </Field>
      </div>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold mb-1">Opt-in</legend>
        <Option name="mode" isChosen={consent.mode === 'double'} onChoose={() => set({ mode: 'double' })}>
          Double: Iwashi sends a confirmation, and delivers once it is confirmed.{' '}
          <span className="text-quiet">
            Keeps typing mistakes and robots out, and proves consent. Switch off the confirmation of the destination, or
            people get two.
          </span>
        </Option>
        <Option name="mode" isChosen={consent.mode === 'single'} onChoose={() => set({ mode: 'single' })}>
          Single: delivered at once.{' '}
          <span className="text-quiet">Grows faster; nobody proves that the address is theirs.</span>
        </Option>
      </fieldset>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold mb-1">If somebody who confirmed before sends other answers</legend>
        <Option name="changes" isChosen={consent.changes !== 'at once'} onChoose={() => set({ changes: 'ask' })}>
          {consent.mode === 'double' ? 'Ask them to confirm the change.' : 'Fill what is empty, and keep the rest.'}{' '}
          <span className="text-quiet">Anybody who knows an address can send a form with it.</span>
        </Option>
        <Option name="changes" isChosen={consent.changes === 'at once'} onChoose={() => set({ changes: 'at once' })}>
          Change it at once.{' '}
          <span className="text-quiet">For forms that only signed-in people reach, such as a preference page.</span>
        </Option>
      </fieldset>
      {consent.mode === 'double' && (
        <div className="grid gap-4 lg:grid-cols-2">
          <div className="flex flex-col gap-3">
            <Field label="Subject of the confirmation mail" error={about('mail/subject')}>
              <input
                className="input w-full"
                value={consent.mail.subject}
                onChange={(event) => setMail({ subject: event.target.value })}
              />
            </Field>
            <Field label="Text" help="{link} stands for the button." error={about('mail/body')}>
              <textarea
                className="textarea w-full"
                rows={9}
                value={consent.mail.body}
                onChange={(event) => setMail({ body: event.target.value })}
              />
            </Field>
            <div className="grid grid-cols-2 gap-3">
              <Field label="Button" error={about('mail/button')}>
                <input
                  className="input w-full"
                  value={consent.mail.button}
                  onChange={(event) => setMail({ button: event.target.value })}
                />
              </Field>
              <Field label="Good for, in hours" error={about('expiresHours')}>
                <input
                  type="number"
                  min={1}
                  max={1440}
                  className="input w-full"
                  value={consent.expiresHours}
                  onChange={(event) => set({ expiresHours: event.target.valueAsNumber || 0 })}
                />
              </Field>
            </div>
          </div>
          <div>
            <h4 className="font-semibold mb-1">The mail</h4>
            <MailPreview mail={consent.mail} />
          </div>
        </div>
      )}
    </section>
  );
}

/** One of several choices, with what it means. */
function Option({
  name,
  isChosen,
  onChoose,
  children,
}: {
  name: string;
  isChosen: boolean;
  onChoose: () => void;
  children: ReactNode;
}) {
  return (
    <label className="flex gap-2 items-start py-0.5">
      <input type="radio" name={name} className="radio radio-sm mt-0.5" checked={isChosen} onChange={onChoose} />
      <span>{children}</span>
    </label>
  );
}

function MailPreview({ mail }: { mail: ConsentPolicy['mail'] }) {
  const [before = '', ...after] = mail.body.split('{link}');
  return (
    <div className="box p-4 bg-white text-black">
      <p className="font-semibold border-b border-neutral-300 pb-2 mb-3">{mail.subject}</p>
      <div className="whitespace-pre-wrap">
        {before.trimEnd()}
        {after.length > 0 && (
          <>
            {'\n\n'}
            <span className="inline-block px-4 py-2 rounded" style={{ background: '#14424a', color: '#ffffff' }}>
              {mail.button}
            </span>
            {after.join('{link}')}
          </>
        )}
      </div>
    </div>
  );
}
