import { nameKey } from '../../../contract/activity.ts';
import type { Plan } from '../../../core/plan/index.ts';
import { printValue } from '../../../core/values/index.ts';
import { Address } from '../../parts/Address.tsx';
import { StateMark } from '../../parts/StateMark.tsx';

/** A plan, in the same layout wherever it is shown: in a rehearsal before, and in a trail after. */
export function PlanView({ plan, names }: { plan: Plan; names: Record<string, string> }) {
  const { contact, consent, confirmations, deliveries, notes } = plan;
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
                    <span className="text-quiet">{name.replaceAll('_', ' ')}</span>{' '}
                    {from !== null && <s className="text-quiet">{printValue(from)}</s>}{' '}
                    <Address text={printValue(to)} />
                    {when !== 'now' && (
                      <span className="text-quiet">{when === 'never' ? ' (kept as it was)' : ' (once confirmed)'}</span>
                    )}
                  </li>
                ))}
              </ul>
            )}
          </>
        ) : (
          <p className="text-quiet">nobody</p>
        )}
      </PlanPart>
      {consent.length > 0 && (
        <PlanPart title="Consent">
          {consent.map(({ kind, purpose, wording }) => (
            <p key={kind + purpose}>
              <StateMark state={kind} /> for {purpose}: <q>{wording}</q>
            </p>
          ))}
        </PlanPart>
      )}
      {confirmations.map(({ purpose, to, mail, joins, expiresHours }) => (
        <PlanPart key={purpose} title="Confirmation">
          <p>
            {joins ? 'Joins the mail that went out minutes ago' : 'A mail'} to <Address text={to} />:{' '}
            <q>{mail.subject}</q>
          </p>
          <p className="text-quiet">Has to be confirmed within {expiresHours} hours.</p>
        </PlanPart>
      ))}
      {deliveries.map(({ connectionId, intent, when, held, leftOut, targetId }) => (
        <PlanPart
          key={`${connectionId} ${targetId}`}
          title={`Delivery to ${names[connectionId] ?? 'a connection'}`}
          aside={when === 'now' ? 'at once' : 'after confirmation'}
        >
          {held && <p className="text-error font-semibold mb-1">Would be held: {held.message}</p>}
          <dl className="grid grid-cols-[minmax(6rem,auto)_1fr] gap-x-3">
            {Object.entries(intent.fields).map(([key, value]) => (
              <PlanRow key={key} name={names[nameKey(connectionId, 'field', key)] ?? key} value={String(value)} />
            ))}
            {intent.kind !== '' && (
              <PlanRow name="Into" value={names[nameKey(connectionId, 'kind', intent.kind)] ?? intent.kind} />
            )}
            {intent.list !== '' && (
              <PlanRow name="List" value={names[nameKey(connectionId, 'place', intent.list)] ?? intent.list} />
            )}
            {intent.group !== '' && (
              <PlanRow name="Group" value={names[nameKey(connectionId, 'place', intent.group)] ?? intent.group} />
            )}
            {intent.tags.length > 0 && <PlanRow name="Tags" value={intent.tags.join(', ')} />}
            {intent.leaves.length > 0 && (
              <PlanRow
                name="Taken out of"
                value={intent.leaves
                  .map(({ list, group }) => names[nameKey(connectionId, 'place', group || list)] ?? (group || list))
                  .join(', ')}
              />
            )}
            {intent.tagsOff.length > 0 && <PlanRow name="Tags taken off" value={intent.tagsOff.join(', ')} />}
            <PlanRow name="If there already" value={intent.duplicates === 'add' ? 'add another' : intent.duplicates} />
          </dl>
          {leftOut.map((text) => (
            <p key={text} className="text-warning mt-1">
              Left out: {text}
            </p>
          ))}
        </PlanPart>
      ))}
      {notes.map(({ text }) => (
        <p key={text} className="text-quiet">
          {text}
        </p>
      ))}
    </div>
  );
}

function PlanPart({ title, aside, children }: { title: string; aside?: string; children: React.ReactNode }) {
  return (
    <section className="border-l-2 border-base-300 pl-3">
      <h4 className="font-semibold flex justify-between gap-2">
        {title} {aside && <span className="font-normal text-quiet">{aside}</span>}
      </h4>
      {children}
    </section>
  );
}

function PlanRow({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-quiet">{name}</dt>
      <dd className="break-words min-w-0">{value.includes('@') ? <Address text={value} /> : value}</dd>
    </>
  );
}
