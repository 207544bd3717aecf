import { answersIn, type Ending } from '../../../../core/forms/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { DownloadPart } from './DownloadPart.tsx';

interface EndingFieldsProps {
  ending: Ending;
  /** Whose answers can stand in addresses; none where nothing was answered. */
  fields: SourceField[];
  /** Whether something can be handed out: to who sent the form. */
  handsOut?: boolean;
  /** What is wrong with a part of it. */
  about: (part: string) => string | undefined;
  onChange: (part: Partial<Ending>) => void;
}

/** What is said, what it is gone on with, and where the visitor is taken. */
export function EndingFields({ ending, fields, handsOut = false, about, onChange }: EndingFieldsProps) {
  const { title, message, link, next, seconds, newTab } = ending;
  const linkTo = (part: Partial<NonNullable<Ending['link']>>) => {
    const now = { label: '', url: '', ...link, ...part };
    onChange({ link: now.label === '' && now.url === '' ? null : now });
  };
  return (
    <div className="flex flex-col gap-3">
      <Field label="Heading" error={about('/title')}>
        <input
          className="input w-full"
          value={title}
          placeholder="Thank you"
          onChange={({ target }) => onChange({ title: target.value })}
        />
      </Field>
      <Field
        label="Message"
        help="Empty: our own words, which say that a mail asks them to confirm where a live route sends one."
        error={about('/message')}
      >
        <textarea
          className="textarea w-full"
          rows={2}
          value={message}
          onChange={({ target }) => onChange({ message: target.value })}
        />
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Link below it" error={about('/link/label')}>
          <input
            className="input w-full"
            value={link?.label ?? ''}
            placeholder="none"
            onChange={({ target }) => linkTo({ label: target.value })}
          />
        </Field>
        <Field label="Leads to" error={about('/link/url')}>
          <input
            className="input w-full"
            value={link?.url ?? ''}
            placeholder="https://"
            onChange={({ target }) => linkTo({ url: target.value.trim() })}
          />
        </Field>
      </div>
      {handsOut && (
        <DownloadPart download={ending.download} about={about} onChange={(download) => onChange({ download })} />
      )}
      {link && <AnswerInto url={link.url} fields={fields} onChange={(url) => linkTo({ url })} />}
      <Field label="Go on to a page" help="Its address; empty: the message stays." error={about('/next')}>
        <input
          className="input w-full"
          value={next}
          placeholder="https://"
          onChange={({ target }) => onChange({ next: target.value.trim() })}
        />
      </Field>
      {next !== '' && (
        <>
          <AnswerInto url={next} fields={fields} onChange={(url) => onChange({ next: url })} />
          <TickBox
            label="In a tab of its own; the message stays in this one"
            checked={newTab}
            onChange={(checked) => onChange({ newTab: checked, ...(checked ? { seconds: 0 } : {}) })}
          />
          {newTab && (
            <p className="text-muted text-sm">
              Where our script is on the page; on the form&rsquo;s own page, and where the browser opens no tab, it is
              the same one.
            </p>
          )}
          <Field
            label="Seconds before that page"
            help="For which the message is read; 0: at once, without the message. It counts where our script is on the page."
            error={about('/seconds')}
          >
            <input
              type="number"
              min={0}
              max={60}
              className="input w-28"
              value={seconds}
              onChange={({ target }) => onChange({ seconds: Math.round(target.valueAsNumber) || 0 })}
            />
          </Field>
        </>
      )}
    </div>
  );
}

/** Puts an answer into an address, such as that of a page where something is booked. */
function AnswerInto({
  url,
  fields,
  onChange,
}: {
  url: string;
  fields: SourceField[];
  onChange: (url: string) => void;
}) {
  if (fields.length === 0) return null;
  const holds = answersIn(url);
  return (
    <div className="flex flex-col gap-1 text-sm">
      <select
        className="select select-sm w-full"
        aria-label="Put an answer into the address"
        value=""
        onChange={({ target }) => onChange(`${url}${url.includes('?') ? '&' : '?'}${target.value}={${target.value}}`)}
      >
        <option value="">put an answer into the address</option>
        {fields.map(({ id, label }) => (
          <option key={id} value={id}>
            {label.slice(0, 60)}
          </option>
        ))}
      </select>
      {holds.length > 0 && (
        <p className="text-muted">
          {holds.join(', ')}: the page that it leads to sees these answers, and so may whoever keeps its addresses.
        </p>
      )}
    </div>
  );
}
