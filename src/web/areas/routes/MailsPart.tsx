import { Plus, Trash2 } from 'lucide-react';
import type { PartIssue } from '../../../contract/checks.ts';
import { withIds, withNames } from '../../../core/mapping/index.ts';
import { ALL_ANSWERS, type RouteMail } from '../../../core/plan/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { Field } from '../../parts/Field.tsx';
import { LinesInput } from '../../parts/LinesInput.tsx';
import { ConditionPart } from '../../parts/conditions/ConditionPart.tsx';
import { newPartId } from '../../parts/newPartId.ts';

interface MailsPartProps {
  mails: RouteMail[];
  fields: SourceField[];
  values: FieldValues;
  /** Whether people are asked to confirm, so that a mail can wait for that. */
  confirms: boolean;
  issues: PartIssue[];
  onChange: (mails: RouteMail[]) => void;
}

const KINDS = {
  answer: { title: 'Answer to the visitor', add: 'Answer the visitor' },
  notify: { title: 'Note to colleagues', add: 'Tell a colleague' },
} as const;

const NEW: Record<RouteMail['kind'], Pick<RouteMail, 'subject' | 'body'>> = {
  answer: {
    subject: 'Thank you for writing to us',
    body: 'Hello,\n\nthank you. We have what you sent us:\n\n{@answers}',
  },
  notify: { subject: 'Something arrived', body: 'This was answered:\n\n{@answers}' },
};

/** The mails that a route sends: answers to the visitor, and what tells colleagues. */
export function MailsPart({ mails, fields, values, confirms, issues, onChange }: MailsPartProps) {
  const set = (mail: RouteMail) => onChange(mails.map((one) => (one.id === mail.id ? mail : one)));
  const add = (kind: RouteMail['kind']) =>
    onChange([...mails, { id: newPartId(), kind, when: null, to: [], after: 'now', ...NEW[kind] }]);
  return (
    <section aria-labelledby="mails" className="flex flex-col gap-4">
      <h3 id="mails" className="text-lg font-semibold">
        Mails
      </h3>
      {mails.map((mail, index) => (
        <MailPart
          key={mail.id}
          mail={mail}
          fields={fields}
          values={values}
          confirms={confirms}
          issues={issues.filter(({ pointer }) => pointer.startsWith(`/mails/${index}`))}
          onChange={set}
          onRemove={() => onChange(mails.filter(({ id }) => id !== mail.id))}
        />
      ))}
      <div className="flex gap-2">
        {(['notify', 'answer'] as const).map((kind) => (
          <button key={kind} className="btn btn-sm" onClick={() => add(kind)}>
            <Plus size={15} aria-hidden="true" /> {KINDS[kind].add}
          </button>
        ))}
      </div>
    </section>
  );
}

interface MailPartProps extends Omit<MailsPartProps, 'mails' | 'onChange'> {
  mail: RouteMail;
  onChange: (mail: RouteMail) => void;
  onRemove: () => void;
}

function MailPart({ mail, fields, values, confirms, issues, onChange, onRemove }: MailPartProps) {
  const set = (part: Partial<RouteMail>) => onChange({ ...mail, ...part });
  const about = (part: string) => issues.find(({ pointer }) => pointer.endsWith(`/${part}`))?.detail;
  const names = fields.map(({ key }) => `{${key}}`).join(' ');
  return (
    <div className="flex flex-col gap-3 border-l-2 border-base-300 pl-3">
      <div className="flex items-center justify-between gap-2">
        <h4 className="font-semibold">{KINDS[mail.kind].title}</h4>
        <button className="btn btn-sm btn-ghost" onClick={onRemove}>
          <Trash2 size={15} aria-hidden="true" /> Remove mail
        </button>
      </div>
      {mail.kind === 'notify' && (
        <Field
          label="Addresses of colleagues"
          help="One a line. An answer to the mail goes to the visitor."
          error={about('to')}
        >
          <LinesInput lines={mail.to} rows={2} onChange={(to) => set({ to })} />
        </Field>
      )}
      <Field label="Subject" error={about('subject')}>
        <input
          className="input w-full"
          value={withNames(mail.subject, fields)}
          onChange={(event) => set({ subject: withIds(event.target.value, fields) })}
        />
      </Field>
      <Field label="Text" help={`${ALL_ANSWERS} stands for all that was answered. Or: ${names}`} error={about('body')}>
        <textarea
          className="textarea w-full"
          rows={6}
          value={withNames(mail.body, fields)}
          onChange={(event) => set({ body: withIds(event.target.value, fields) })}
        />
      </Field>
      <ConditionPart
        when={mail.when}
        fields={fields}
        values={values}
        words={{ who: 'It goes out for', holds: 'it goes out' }}
        onChange={(when) => set({ when })}
      />
      {confirms && (
        <Field label="When it goes out">
          <select
            className="select select-sm w-auto"
            value={mail.after}
            onChange={(event) => set({ after: event.target.value === 'confirmed' ? 'confirmed' : 'now' })}
          >
            <option value="now">at once</option>
            <option value="confirmed">once they have confirmed</option>
          </select>
        </Field>
      )}
    </div>
  );
}
