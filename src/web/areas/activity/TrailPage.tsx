import { addressIn, keysOf } from '../../../core/identity/index.ts';
import { ArrowLeft } from 'lucide-react';
import { Link, useNavigate, useParams } from 'react-router';
import type { ConfirmationView } from '../../../contract/consent.ts';
import { progressWord, type TrailView } from '../../../contract/submissions.ts';
import { isSite, VISIT_FIELDS, type Payload, type Visit, type VisitPart } from '../../../core/intake/index.ts';
import { inBytes, inWordsOfType, isFile, type FieldValue, type SourceField } from '../../../core/values/index.ts';
import { Address } from '../../parts/Address.tsx';
import { SUSPICIONS } from '../../parts/suspicions.ts';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { StateMark, stateWord } from '../../parts/StateMark.tsx';
import { ExactTime, Time } from '../../parts/Time.tsx';
import { useNow } from '../../parts/useNow.ts';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { ConsentEvents } from './ConsentEvents.tsx';
import { DeliveryCard } from './DeliveryCard.tsx';
import { MailCard } from './MailCard.tsx';
import { PlanView } from './PlanView.tsx';
import { useAct, useTrail } from '../../data/activity.ts';
import { useConversationOf } from '../../data/chats.ts';
import { SaidLines } from './chats/SaidLines.tsx';

const isOfConversation = (payload: Payload | null): boolean =>
  payload?.kind === 'json' &&
  typeof payload.json === 'object' &&
  payload.json !== null &&
  'conversation' in payload.json;

/** Everything that happened to one submission, in order. */
export function TrailPage() {
  const { id = '' } = useParams();
  const trail = useTrail(id);
  return (
    <Loaded query={trail}>
      {(data) => (
        <Working
          id="trail"
          middle={<Trail trail={data} />}
          rightLabel="As it arrived, and the plan"
          right={<Evidence trail={data} />}
        />
      )}
    </Loaded>
  );
}

function Trail({ trail }: { trail: TrailView }) {
  const {
    receivedAt,
    sourceId,
    sourceName,
    sourceVersion,
    contactId,
    values,
    fields,
    plan,
    consent,
    confirmations,
    mails,
    deliveries,
    visit,
  } = trail;
  const navigate = useNavigate();
  const key = plan?.contact?.key;
  // A number of a shop's own is nobody's name, where they have an address.
  const address = key ? addressIn(keysOf(fields, values, sourceId)) || key.value : 'Submission';
  useTellOpen(address, stateWord('submission', progressWord(trail)), 'received', receivedAt);
  return (
    <div className="p-5 max-w-4xl">
      <button className="btn btn-sm btn-ghost -ml-2 mb-2" onClick={() => void navigate(-1)}>
        <ArrowLeft size={15} aria-hidden="true" /> Back
      </button>
      <div className="flex flex-wrap items-baseline justify-between gap-2 mb-5">
        <h1 className="text-xl font-semibold">
          <Address text={address} />
        </h1>
        <span className="text-lg">
          <StateMark of="submission" state={progressWord(trail)} />
        </span>
      </div>
      <ol className="flex flex-col">
        <Stop title="Received" at={receivedAt}>
          <p>
            From{' '}
            <Link to={`/sources/${sourceId}`} className="plain-link">
              {sourceName}
            </Link>
            , version {sourceVersion}
            {visit.page &&
              (isSite(visit.page)
                ? `, on a page of ${visit.page} (its browser does not say which)`
                : `, on ${visit.page}`)}
          </p>
          <Came visit={visit} />
          {trail.repeats > 0 && trail.lastRepeatAt && (
            <p>
              The same request came {trail.repeats === 1 ? 'once more' : `${trail.repeats} times more`}, last{' '}
              <Time at={trail.lastRepeatAt} />. It was taken once.
            </p>
          )}
          <table className="rows mt-2">
            <tbody>
              {fields.map((field) => (
                <tr key={field.id}>
                  <th scope="row" className="font-normal! max-w-64 whitespace-normal!">
                    {field.label}
                  </th>
                  <td>
                    <Value type={field.type} value={values[field.id]} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {trail.undoneAt !== null && (
            <p className="text-warning mt-2">
              The import that it came by was undone <Time at={trail.undoneAt} />: what it said of the person does not
              count any more. What had gone to other systems stays there.
            </p>
          )}
          <Stopped trail={trail} />
          <Replied trail={trail} />
        </Stop>
        {plan && (
          <Stop title="Contact">
            {trail.undoneAt !== null && !contactId ? (
              <p>This contact came only from the import that was undone, so it was removed.</p>
            ) : plan.contact && contactId ? (
              <p>
                {plan.contact.match === 'new' ? 'New person' : `Matched by ${plan.contact.key.kind}`}:{' '}
                <Link to={`/people/${contactId}`} className="plain-link">
                  {plan.contact.key.value}
                </Link>
                {plan.contact.changes.length > 0
                  ? `; ${plan.contact.changes.length} ${plan.contact.changes.length === 1 ? 'value' : 'values'} set`
                  : '; nothing new'}
              </p>
            ) : (
              <p>Nobody could be recognised.</p>
            )}
          </Stop>
        )}
        {consent.length > 0 && (
          <Stop title="Consent">
            <ConsentEvents events={consent} />
          </Stop>
        )}
        {confirmations.map((confirmation) => (
          <Stop key={confirmation.id} title="Confirmation">
            <ConfirmationPart confirmation={confirmation} />
          </Stop>
        ))}
        {mails.length > 0 && (
          <Stop title={mails.length === 1 ? 'Mail' : 'Mails'}>
            <div className="flex flex-col gap-2">
              {mails.map((mail) => (
                <MailCard key={mail.id} mail={mail} />
              ))}
            </div>
          </Stop>
        )}
        {plan && (
          <Stop title={deliveries.length === 1 ? 'Delivery' : 'Deliveries'} last>
            {deliveries.length === 0 && (
              <p className="text-muted">
                {plan.notes.map(({ text }) => text).join(' ') || 'Nothing is sent anywhere.'}
              </p>
            )}
            <div className="flex flex-col gap-4">
              {deliveries.map((delivery) => (
                <DeliveryCard key={delivery.id} delivery={delivery} />
              ))}
            </div>
          </Stop>
        )}
      </ol>
    </div>
  );
}

/** How the visitor came, as far as it is known. */
function Came({ visit }: { visit: Visit }) {
  const known = VISIT_FIELDS.filter(({ id }) => id !== '@page').flatMap(({ id, label }) => {
    const text = visit[id.slice(1) as VisitPart];
    return text === undefined ? [] : [`${label}: ${text}`];
  });
  return known.length === 0 ? null : <p className="text-muted">{known.join(' · ')}</p>;
}

/** A value; a file is a link to it, for those who are signed in. */
function Value({ type, value }: { type: SourceField['type']; value: FieldValue | undefined }) {
  if (isFile(value)) {
    const { file, name, mediaType, size } = value;
    return (
      <>
        <a className="plain-link" href={`/files/${file}`} download={name}>
          {name}
        </a>{' '}
        <span className="text-muted">
          {mediaType}, {inBytes(size)}
        </span>
      </>
    );
  }
  const text = inWordsOfType(type, value);
  return <span className="whitespace-pre-wrap">{text || <span className="text-muted">empty</span>}</span>;
}

/** A payload as it came. */
function inWords(payload: Payload | null): string {
  if (payload === null) return '';
  if (payload.kind === 'json') return JSON.stringify(payload.json, null, 2);
  return payload.entries.map(([name, value]) => `${name} = ${value}`).join('\n');
}

/** One stop of the trail, on its line. */
function Stop({
  title,
  at,
  last = false,
  children,
}: {
  title: string;
  at?: string;
  last?: boolean;
  children: React.ReactNode;
}) {
  return (
    <li className={`relative pl-6 pb-6 border-l-2 ml-1.5 ${last ? 'border-transparent' : 'border-base-300'}`}>
      <span aria-hidden="true" className="absolute -left-[7px] top-1.5 w-3 h-3 rounded-full bg-primary" />
      <h2 className="font-semibold text-lg flex gap-3 items-baseline">
        {title}{' '}
        {at && (
          <span className="font-normal text-muted text-base">
            <ExactTime at={at} />
          </span>
        )}
      </h2>
      {children}
    </li>
  );
}

function Stopped({ trail }: { trail: TrailView }) {
  const act = useAct();
  const { state, suspicion, failure, id } = trail;
  if (state !== 'set aside' && state !== 'failed') {
    return suspicion ? (
      <p className="mt-2 text-muted">Was set aside, since {SUSPICIONS[suspicion]}, and released by a person.</p>
    ) : null;
  }
  return (
    <div className="box p-3 mt-3">
      <p className="font-semibold">
        {state === 'set aside' && suspicion
          ? `Set aside, since ${SUSPICIONS[suspicion]}. Nothing was done with it.`
          : `It could not be planned: ${failure}`}
      </p>
      <button
        className="btn btn-sm mt-2"
        disabled={act.isPending}
        onClick={() => act.mutate({ path: `/submissions/${id}/release` })}
      >
        {state === 'set aside' ? 'It is all right: release it' : 'Plan it again'}
      </button>
      <ActionError error={act.error} />
    </div>
  );
}

/** Whether a colleague has answered: outside of here, so that somebody has to say so. */
function Replied({ trail: { id, state, replied } }: { trail: TrailView }) {
  const act = useAct();
  if (replied)
    return (
      <p className="mt-2 text-muted">
        Answered by {replied.by}, <Time at={replied.at} />.
      </p>
    );
  if (state !== 'planned') return null;
  return (
    <div className="mt-3 flex items-center gap-3">
      <button
        className="btn btn-sm"
        disabled={act.isPending}
        onClick={() => act.mutate({ path: `/submissions/${id}/answered` })}
      >
        I have answered
      </button>
      <span className="text-muted text-sm">Insight tells how soon people hear from you.</span>
      <ActionError error={act.error} />
    </div>
  );
}

function ConfirmationPart({ confirmation }: { confirmation: ConfirmationView }) {
  const act = useAct();
  const now = useNow();
  const { id, purposes, state, expiresAt, confirmedAt, mayResendAt, mails } = confirmation;
  const mayResend = mayResendAt !== null && Date.parse(mayResendAt) <= now;
  return (
    <div className="flex flex-col gap-2">
      <p>
        <StateMark of="confirmation" state={state} /> for <strong>{purposes.join(', ')}</strong>
        {confirmedAt && (
          <>
            {' '}
            · <Time at={confirmedAt} />
          </>
        )}
        {state === 'pending' && (
          <span className="text-muted">
            {' '}
            · expires <Time at={expiresAt} coming />
          </span>
        )}
      </p>
      {mails.map((mail) => (
        <MailCard key={mail.id} mail={mail} />
      ))}
      {state === 'pending' && (
        <p>
          <button
            className="btn btn-sm"
            disabled={!mayResend || act.isPending}
            onClick={() => act.mutate({ path: `/confirmations/${id}/resend` })}
          >
            Send the mail again
          </button>
          {!mayResend && mayResendAt && (
            <span className="text-muted ml-2">
              possible <Time at={mayResendAt} coming />
            </span>
          )}
        </p>
      )}
      <ActionError error={act.error} />
    </div>
  );
}

/** What was said in the conversation that it came of. */
function Conversation({ id }: { id: string }) {
  const { data } = useConversationOf(id, true);
  if (!data) return null;
  return (
    <section>
      <h2 className="font-semibold text-lg mb-2">What was said</h2>
      <SaidLines said={data.said} />
    </section>
  );
}

const deliveryKey = ({ connectionId, routeVersion }: { connectionId: string; routeVersion: number }): string =>
  `${connectionId} ${routeVersion}`;

function Evidence({ trail: { id, raw, plan, names, deliveries } }: { trail: TrailView }) {
  const planned = new Set(plan?.actions.map((one) => (one.kind === 'deliver' ? deliveryKey(one) : '')));
  const later = deliveries.filter((one) => !planned.has(deliveryKey(one))).length;
  return (
    <div className="p-4 flex flex-col gap-6">
      {isOfConversation(raw.payload) && <Conversation id={id} />}
      <section>
        <h2 className="font-semibold text-lg mb-2">The plan on arrival</h2>
        {later > 0 && (
          <p className="mb-2">
            {later === 1 ? 'One delivery was' : `${later} deliveries were`} planned later, by what was live then: see
            there.
          </p>
        )}
        {plan ? <PlanView plan={plan} names={names} /> : <p className="text-muted">Not planned yet.</p>}
      </section>
      <section>
        <h2 className="font-semibold text-lg mb-2">As it arrived</h2>
        <p className="text-muted text-sm mb-1">{raw.contentType}</p>
        <pre className="bg-base-200 p-2 text-xs font-mono whitespace-pre-wrap break-words rounded" tabIndex={0}>
          {inWords(raw.payload)}
        </pre>
        <pre className="bg-base-200 p-2 mt-2 text-xs font-mono whitespace-pre-wrap break-words rounded" tabIndex={0}>
          {Object.entries(raw.headers)
            .map(([name, value]) => `${name}: ${value}`)
            .join('\n')}
        </pre>
      </section>
    </div>
  );
}
