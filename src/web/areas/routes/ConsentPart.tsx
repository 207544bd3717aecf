import { Plus } from 'lucide-react';
import type { ReactNode } from 'react';
import type { PartIssue } from '../../../contract/checks.ts';
import type { ConnectionView } from '../../../contract/connection.ts';
import {
  listsOf,
  type ConfirmedBy,
  type ConsentAsk,
  type ConsentPolicy,
  type Target,
} from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { usePurposes } from '../../data/purposes.ts';
import { Field } from '../../parts/Field.tsx';
import { AskPart } from './AskPart.tsx';
import { newPartId } from '../../parts/newPartId.ts';

interface ConsentPartProps {
  consent: ConsentPolicy;
  targets: Target[];
  connections: ConnectionView[];
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  issues: PartIssue[];
  onChange: (consent: ConsentPolicy) => void;
}

/** What people consent to, in which words, who has them confirm it, and the mail by which they do. */
export function ConsentPart({ consent, targets, connections, fields, statement, issues, onChange }: ConsentPartProps) {
  const purposes = usePurposes();
  const set = (part: Partial<ConsentPolicy>) => onChange({ ...consent, ...part });
  const setMail = (part: Partial<ConsentPolicy['mail']>) => set({ mail: { ...consent.mail, ...part } });
  const about = (part: string) => issues.find(({ pointer }) => pointer === `/consent/${part}`)?.detail;
  const setAsk = (ask: ConsentAsk) => set({ asks: consent.asks.map((one) => (one.id === ask.id ? ask : one)) });
  const byUs = consent.confirmedBy.by === 'iwashi';
  return (
    <section aria-labelledby="consent" className="flex flex-col gap-4">
      <h3 id="consent" className="text-lg font-semibold">
        Consent
      </h3>
      {consent.asks.length === 0 && <p className="text-muted">Nobody is asked for consent by this route.</p>}
      {consent.asks.map((ask, index) => (
        <AskPart
          key={ask.id}
          ask={ask}
          purposes={purposes.data ?? []}
          fields={fields}
          statement={statement}
          error={about(`asks/${index}/purpose`)}
          onChange={setAsk}
          onRemove={() => set({ asks: consent.asks.filter(({ id }) => id !== ask.id) })}
        />
      ))}
      <div>
        <button
          className="btn btn-sm"
          onClick={() =>
            set({ asks: [...consent.asks, { id: newPartId(), purpose: '', channels: ['email'], tickField: '' }] })
          }
        >
          <Plus size={15} aria-hidden="true" /> Ask for {consent.asks.length === 0 ? 'a' : 'another'} consent
        </button>
      </div>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold mb-1">Who has people confirm that the address is theirs</legend>
        <Option name="confirms" isChosen={byUs} onChoose={() => set({ confirmedBy: { by: 'iwashi' } })}>
          Iwashi: a mail goes out, and what needs consent by email waits until it is confirmed.{' '}
          <span className="text-muted">Double opt-in. Keeps typing mistakes and robots out, and proves consent.</span>
        </Option>
        {confirmingTargets(targets, connections).map(({ id, name, confirms }) => (
          <Option
            key={id}
            name="confirms"
            isChosen={isTarget(consent.confirmedBy, id)}
            onChoose={() => set({ confirmedBy: { by: 'target', targetId: id } })}
          >
            {name} sends its own mail.{' '}
            <span className="text-muted">
              Double opt-in by the destination. {confirms === true && 'It does so, as last fetched.'}
              {confirms === false && 'As last fetched it does not.'}
              {confirms === undefined && 'Whether it does cannot be seen from here.'}
            </span>
          </Option>
        ))}
        <Option
          name="confirms"
          isChosen={consent.confirmedBy.by === 'nobody'}
          onChoose={() => set({ confirmedBy: { by: 'nobody' } })}
        >
          Nobody: everything goes at once.{' '}
          <span className="text-muted">Single opt-in. Grows faster; nobody proves that the address is theirs.</span>
        </Option>
      </fieldset>
      <fieldset className="flex flex-col gap-1">
        <legend className="font-semibold mb-1">If somebody who confirmed before sends other answers</legend>
        <Option name="changes" isChosen={consent.changes !== 'at once'} onChoose={() => set({ changes: 'ask' })}>
          {byUs ? 'Ask them to confirm the change.' : 'Fill what is empty, and keep the rest.'}{' '}
          <span className="text-muted">Anybody who knows an address can send a form with it.</span>
        </Option>
        <Option name="changes" isChosen={consent.changes === 'at once'} onChoose={() => set({ changes: 'at once' })}>
          Change it at once.{' '}
          <span className="text-muted">For forms that only signed-in people reach, such as a preference page.</span>
        </Option>
      </fieldset>
      {byUs && (
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
              <Field label="Valid for, in hours" error={about('expiresHours')}>
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

const isTarget = (confirmedBy: ConfirmedBy, id: string): boolean =>
  confirmedBy.by === 'target' && confirmedBy.targetId === id;

/** The targets that have lists, which may ask people to confirm by themselves. */
function confirmingTargets(targets: Target[], connections: ConnectionView[]) {
  return targets.flatMap(({ id, connectionId, places }) => {
    const connection = connections.find((one) => one.id === connectionId);
    const lists = listsOf(connection?.catalogue ?? undefined, { places });
    const [first] = lists;
    if (!connection || !first) return [];
    const asking = lists.find(({ confirms }) => confirms === true) ?? first;
    return [{ id, name: `${asking.name} in ${connection.name}`, confirms: asking.confirms }];
  });
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
