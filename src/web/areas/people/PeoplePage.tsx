import { Link, useParams, useSearchParams } from 'react-router';
import type { KeyView, PersonView } from '../../../contract/people.ts';
import { CHANNEL_WORDS } from '../../../core/consent/index.ts';
import { inWordsBySight } from '../../../core/values/index.ts';
import { usePeople, usePerson } from '../../data/people.ts';
import { Address } from '../../parts/Address.tsx';
import { Filter } from '../../parts/Filter.tsx';
import { moveInList } from '../../parts/keys.ts';
import { MoreRows } from '../../parts/MoreRows.tsx';
import { Empty, Loaded } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';
import { Time } from '../../parts/Time.tsx';
import { Working } from '../../parts/Working.tsx';
import { useTellOpen } from '../../shell/openObject.ts';
import { ConsentEvents } from '../activity/ConsentEvents.tsx';
import { NoticeLine } from '../../parts/NoticeLine.tsx';
import { SubmissionTable } from '../activity/SubmissionTable.tsx';
import { Places } from './Places.tsx';

export function PeoplePage() {
  const { id } = useParams();
  const person = usePerson(id);
  const middle = id ? (
    <Loaded query={person}>{(data) => <Person person={data} />}</Loaded>
  ) : (
    <Empty title="People">
      Choose somebody on the left to see what is known of them, where each value came from, and what they agreed to.
    </Empty>
  );
  return (
    <Working
      id={person.data ? 'person' : 'people'}
      leftLabel="People"
      left={<PeopleList openId={id} />}
      middle={middle}
      {...(person.data && id ? { right: <ConsentColumn person={person.data} />, rightLabel: 'Consent' } : {})}
    />
  );
}

function PeopleList({ openId }: { openId: string | undefined }) {
  const [params] = useSearchParams();
  const text = params.get('text') ?? '';
  const people = usePeople(text);
  const rows = people.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div onKeyDown={moveInList}>
      <div className="p-3 flex flex-col gap-2 sticky top-0 bg-base-100 border-b border-base-300">
        <h1 className="font-semibold text-lg">People</h1>
        <Filter label="Address, number or name" />
      </div>
      <ul>
        {rows.map(({ id, email, phone, name, updatedAt }) => (
          <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
            <Link
              data-row
              to={`/people/${id}?${params.toString()}`}
              aria-current={id === openId ? 'page' : undefined}
              className="block px-3 py-2 hover:bg-base-200"
            >
              <span className="flex justify-between gap-2">
                <strong className="font-semibold">{name || 'no name'}</strong>
                <span className="text-muted text-sm">
                  <Time at={updatedAt} />
                </span>
              </span>
              <span className="block text-muted text-sm">
                <Address text={email || phone} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {people.data && rows.length === 0 && !people.hasNextPage && (
        <p className="p-4 text-muted">
          {text ? 'Nobody matches.' : 'Nobody yet. People appear here with their first submission.'}
        </p>
      )}
      <MoreRows query={people} />
    </div>
  );
}

function Person({ person }: { person: PersonView }) {
  const { name, email, phone, createdAt, updatedAt, keys, values, history, mergings, submissions } = person;
  const called = name || email || phone;
  useTellOpen(called, 'contact', 'changed', updatedAt);
  return (
    <div className="p-5 flex flex-col gap-6">
      <div>
        <h2 className="text-xl font-semibold">{called}</h2>
        <p className="text-muted">
          First seen <Time at={createdAt} />
        </p>
      </div>
      <Keys keys={keys} />
      <section>
        <h3 className="font-semibold mb-1">What is known</h3>
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Value</th>
              <th scope="col">Is</th>
              <th scope="col">Set by</th>
            </tr>
          </thead>
          <tbody>
            {values.map(({ name: key, value, at, submissionId }) => (
              <tr key={key}>
                <td className="text-muted">{key.replaceAll('_', ' ')}</td>
                <td className="break-words">{inWordsBySight(value)}</td>
                <td>
                  <Link to={`/activity/${submissionId}`} className="plain-link">
                    submission
                  </Link>{' '}
                  <Time at={at} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <History history={history} mergings={mergings} />
      <Places personId={person.id} />
      <section>
        <h3 className="font-semibold mb-1">Submissions</h3>
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Submissions of this person">
          <SubmissionTable rows={submissions} ofOnePerson />
        </div>
      </section>
    </div>
  );
}

/** By what the person is recognised, and who said so. */
function Keys({ keys }: { keys: KeyView[] }) {
  return (
    <section>
      <h3 className="font-semibold mb-1">Recognised by</h3>
      <table className="rows w-full">
        <tbody>
          {keys.map(({ kind, value, recognises, submissionId, saidAt, verifiedAt }) => (
            <tr key={kind + value}>
              <td className="text-muted">{kind}</td>
              <td className="break-words">
                <Address text={value} />
                {!recognises && <span className="text-muted"> · somebody else is recognised by it</span>}
              </td>
              <td>
                {verifiedAt ? (
                  <>
                    confirmed <Time at={verifiedAt} />
                  </>
                ) : (
                  <span className="text-muted">not confirmed</span>
                )}
              </td>
              <td>
                {submissionId && (
                  <Link to={`/activity/${submissionId}`} className="plain-link">
                    submission
                  </Link>
                )}{' '}
                {saidAt && <Time at={saidAt} />}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** Everything that was ever said of the person, and which contacts were taken for one. */
function History({ history, mergings }: Pick<PersonView, 'history' | 'mergings'>) {
  return (
    <details>
      <summary className="cursor-pointer font-semibold">
        History: {history.length} {history.length === 1 ? 'value' : 'values'} said
        {mergings.length > 0 &&
          `, ${mergings.length} ${mergings.length === 1 ? 'merge or split' : 'merges and splits'}`}
      </summary>
      <ul className="mt-1">
        {mergings.map(({ kind, at, by, reason }) => (
          <li key={at}>
            <Time at={at} /> · {kind === 'merged' ? 'merged with another contact' : 'split off again'} by {by}: {reason}
          </li>
        ))}
        {history.map(({ name, value, rule, trust, at, submissionId }) => (
          <li key={submissionId + name + at}>
            <Time at={at} /> ·{' '}
            <Link to={`/activity/${submissionId}`} className="plain-link">
              {name.replaceAll('_', ' ')}
            </Link>{' '}
            {inWordsBySight(value)}
            {rule !== 'latest' && <span className="text-muted"> · {rule} stays</span>}
            {trust !== 'usual' && <span className="text-muted"> · from a source trusted {trust}</span>}
          </li>
        ))}
      </ul>
    </details>
  );
}

function ConsentColumn({ person: { consent, events, deliveries, notices } }: { person: PersonView }) {
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-1">Consent</h2>
        {consent.length === 0 && <p className="text-muted">None.</p>}
        {consent.map(({ purpose, channel, state }) => (
          <p key={purpose + channel}>
            <strong>{purpose}</strong>, by {CHANNEL_WORDS[channel]}: <StateMark of="consent" state={state} />
          </p>
        ))}
      </section>
      <section>
        <h3 className="font-semibold mb-1">Evidence</h3>
        <ConsentEvents events={events} linked />
      </section>
      {notices.length > 0 && (
        <section>
          <h3 className="font-semibold mb-1">Told by other systems</h3>
          <ul>
            {notices.map((notice) => (
              <li key={notice.at + notice.kind}>
                <NoticeLine notice={notice} /> · {notice.connectionName}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section>
        <h3 className="font-semibold mb-1">Deliveries</h3>
        <ul>
          {deliveries.map(({ id, connectionName, state, submissionId }) => (
            <li key={id} className="flex justify-between gap-2">
              <Link to={`/activity/${submissionId}`} className="plain-link">
                {connectionName}
              </Link>
              <StateMark of="delivery" state={state} />
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
