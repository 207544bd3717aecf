import type { ReactNode } from 'react';
import { nameKey } from '../../../contract/submissions.ts';
import { CHANNEL_WORDS } from '../../../core/consent/index.ts';
import { printConfirmationMail, printPlainMail } from '../../../core/formats/index.ts';
import type { OverwriteRule, SentValue } from '../../../core/mapping/index.ts';
import type { Action, Plan } from '../../../core/plan/index.ts';
import { inWordsBySight } from '../../../core/values/index.ts';
import { Address } from '../../parts/Address.tsx';
import { RULE_WORDS } from '../../parts/ruleWords.ts';
import { MailAsReceived } from './MailAsReceived.tsx';
import { StateMark } from '../../parts/StateMark.tsx';

/** A plan, in the same layout wherever it is shown: in a rehearsal before, and in a trail after. */
export function PlanView({
  plan,
  names,
  beside,
}: {
  plan: Plan;
  names: Record<string, string>;
  /** What is shown beneath a delivery. */
  beside?: (targetId: string) => ReactNode;
}) {
  const { contact, consent, notes } = plan;
  return (
    <div className="flex flex-col gap-4">
      <PlanPart title="Contact">
        {contact ? (
          <>
            <p>
              {contact.match === 'new' ? 'A new person' : 'A person we know'}, by {contact.key.kind}{' '}
              <Address text={contact.key.value} />
            </p>
            {contact.changes.length > 0 && (
              <ul className="mt-1">
                {contact.changes.map(({ name, from, to, when }) => (
                  <li key={name}>
                    <span className="text-muted">{name.replaceAll('_', ' ')}</span>{' '}
                    {from !== null && <s className="text-muted">{inWordsBySight(from)}</s>}{' '}
                    <Address text={inWordsBySight(to)} />
                    {when !== 'now' && (
                      <span className="text-muted">{when === 'never' ? ' (kept as it was)' : ' (once confirmed)'}</span>
                    )}
                  </li>
                ))}
              </ul>
            )}
          </>
        ) : (
          <p className="text-muted">nobody</p>
        )}
      </PlanPart>
      {consent.length > 0 && (
        <PlanPart title="Consent">
          {consent.map(({ kind, purpose, channel, wording }) => (
            <p key={kind + purpose + channel}>
              <StateMark of="consent" state={kind} /> for{' '}
              {purpose === '' ? 'a purpose to be chosen' : (names[purpose] ?? purpose)}, by {CHANNEL_WORDS[channel]}:{' '}
              <q>{wording}</q>
            </p>
          ))}
        </PlanPart>
      )}
      {plan.actions.map((action) => (
        <ActionPart key={action.id} action={action} names={names} beside={beside} />
      ))}
      {notes.map(({ text }) => (
        <p key={text} className="text-muted">
          {text}
        </p>
      ))}
    </div>
  );
}

interface ActionProps<Kind> {
  action: Kind;
  names: Record<string, string>;
}

/** One thing that will be done, or was: when, why, and what. */
function ActionPart({
  action,
  names,
  beside,
}: ActionProps<Action> & { beside: ((targetId: string) => ReactNode) | undefined }) {
  const aside = action.after.kind === 'now' ? 'at once' : 'once confirmed';
  switch (action.kind) {
    case 'ask':
      return (
        <PlanPart title="Confirmation" because={action.because}>
          <p>
            {action.joins ? 'Joins the mail that went out minutes ago' : 'A mail'} to <Address text={action.to} />:{' '}
            <q>{action.mail.subject}</q>
          </p>
          <p className="text-muted">Has to be confirmed within {action.expiresHours} hours.</p>
          {!action.joins && <MailAsReceived mail={printConfirmationMail(action.mail, '#')} />}
        </PlanPart>
      );
    case 'deliver':
      return (
        <PlanPart
          title={`${action.intent.ends === null ? 'Delivery to' : 'End in'} ${names[action.connectionId] ?? 'a connection'}`}
          aside={aside}
          because={action.because}
        >
          <Delivery action={action} names={names} />
          {beside?.(action.targetId)}
        </PlanPart>
      );
    case 'answer':
    case 'notify':
      return (
        <PlanPart
          title={action.kind === 'answer' ? 'Answer to the visitor' : 'Note to colleagues'}
          aside={aside}
          because={action.because}
        >
          <p>
            A mail to <Address text={action.to.join(', ')} />: <q>{action.subject}</q>
          </p>
          <pre className="whitespace-pre-wrap font-sans text-muted mt-1">{action.text}</pre>
          <MailAsReceived mail={printPlainMail(action)} />
        </PlanPart>
      );
    default:
      return action satisfies never;
  }
}

function fieldInWords(value: SentValue | null, rule: OverwriteRule | undefined): string {
  const words = value === null ? 'is cleared' : String(value);
  return rule ? `${words} (if there already: ${RULE_WORDS[rule]})` : words;
}

function Delivery({
  action: { connectionId, intent, held, leftOut },
  names,
}: ActionProps<Extract<Action, { kind: 'deliver' }>>) {
  const leaves = intent.leaves
    .map(({ list, group }) => names[nameKey(connectionId, 'place', group || list)] ?? (group || list))
    .join(', ');
  if (intent.ends !== null)
    return (
      <p>
        {intent.ends === 'subscription'
          ? `Unsubscribed there, by ${CHANNEL_WORDS[intent.channel]}.`
          : `Taken out of ${leaves}, and left where they are for something else.`}
      </p>
    );
  return (
    <>
      {held && <p className="text-error font-semibold mb-1">Would be held: {held.message}</p>}
      <dl className="grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-3">
        {Object.entries(intent.fields).map(([key, value]) => (
          <PlanRow
            key={key}
            name={names[nameKey(connectionId, 'field', key)] ?? key}
            value={fieldInWords(value, intent.rules[key])}
          />
        ))}
        {intent.kind !== '' && (
          <PlanRow name="As" value={names[nameKey(connectionId, 'kind', intent.kind)] ?? intent.kind} />
        )}
        {intent.places.map(({ list, group }) => (
          <PlanRow
            key={`${list} ${group}`}
            name="Into"
            value={[list, group]
              .filter((id) => id !== '')
              .map((id) => names[nameKey(connectionId, 'place', id)] ?? id)
              .join(': ')}
          />
        ))}
        {intent.tags.length > 0 && <PlanRow name="Tags" value={intent.tags.join(', ')} />}
        {leaves !== '' && <PlanRow name="Taken out of" value={leaves} />}
        {intent.tagsOff.length > 0 && <PlanRow name="Tags taken off" value={intent.tagsOff.join(', ')} />}
        <PlanRow name="If there already" value={intent.duplicates === 'add' ? 'add another' : intent.duplicates} />
      </dl>
      {leftOut.map((text) => (
        <p key={text} className="text-warning mt-1">
          Left out: {text}
        </p>
      ))}
    </>
  );
}

function PlanPart({
  title,
  aside,
  because = '',
  children,
}: {
  title: string;
  aside?: string;
  because?: string;
  children: ReactNode;
}) {
  return (
    <section className="border-l-2 border-base-300 pl-3">
      <h4 className="font-semibold flex justify-between gap-2">
        {title} {aside && <span className="font-normal text-muted">{aside}</span>}
      </h4>
      {because !== '' && <p className="text-muted">{because}</p>}
      {children}
    </section>
  );
}

function PlanRow({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-muted">{name}</dt>
      <dd className="break-words min-w-0">{value.includes('@') ? <Address text={value} /> : value}</dd>
    </>
  );
}
