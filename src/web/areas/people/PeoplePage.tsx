import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Page, PersonRow, PersonView } from '../../../contract/activity.ts';
import { printValue } from '../../../core/values/index.ts';
import { api } from '../../parts/api.ts';
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
  const person = useQuery({
    queryKey: ['people', 'one', id],
    queryFn: () => api.get<PersonView>(`/people/${id}`),
    enabled: Boolean(id),
    refetchInterval: 5_000,
  });
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
  const people = useInfiniteQuery({
    queryKey: ['people', 'list', text],
    initialPageParam: '',
    queryFn: ({ pageParam }) =>
      api.get<Page<PersonRow>>(`/people?text=${encodeURIComponent(text)}&before=${pageParam}`),
    getNextPageParam: (last) => last.next ?? undefined,
    placeholderData: (before) => before,
    refetchInterval: 10_000,
  });
  const rows = people.data?.pages.flatMap((page) => page.rows) ?? [];
  return (
    <div onKeyDown={moveInList}>
      <div className="p-3 flex flex-col gap-2 sticky top-0 bg-base-100 border-b border-base-300">
        <h1 className="font-semibold text-lg">People</h1>
        <Filter label="Address or name" />
      </div>
      <ul>
        {rows.map(({ id, email, name, updatedAt }) => (
          <li key={id} className={`border-b border-base-300 ${id === openId ? 'bg-base-200' : ''}`}>
            <Link
              data-row
              to={`/people/${id}?${params.toString()}`}
              aria-current={id === openId ? 'page' : undefined}
              className="block px-3 py-2 hover:bg-base-200"
            >
              <span className="flex justify-between gap-2">
                <strong className="font-semibold">{name || 'no name'}</strong>
                <span className="text-quiet text-sm">
                  <Time at={updatedAt} />
                </span>
              </span>
              <span className="block text-quiet text-sm">
                <Address text={email} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {people.data && rows.length === 0 && (
        <p className="p-4 text-quiet">
          {text ? 'Nobody matches.' : 'Nobody yet. People appear here with their first submission.'}
        </p>
      )}
      <MoreRows query={people} />
    </div>
  );
}

function Person({ person }: { person: PersonView }) {
  const { name, email, createdAt, updatedAt, keys, values, submissions } = person;
  useTellOpen(name || email, 'contact', 'changed', updatedAt);
  return (
    <div className="p-5 flex flex-col gap-6">
      <div>
        <h2 className="text-xl font-semibold">{name || email}</h2>
        <p className="text-quiet">
          First seen <Time at={createdAt} /> · recognised by{' '}
          {keys.map(({ kind, value }) => `${kind} ${value}`).join(', ')}
        </p>
      </div>
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
            {values.map(({ name: key, value, setAt, submissionId }) => (
              <tr key={key}>
                <td className="text-quiet">{key.replaceAll('_', ' ')}</td>
                <td className="break-words">{printValue(value)}</td>
                <td>
                  <Link to={`/activity/${submissionId}`} className="plain-link">
                    submission
                  </Link>{' '}
                  <Time at={setAt} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
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

function ConsentColumn({ person: { consent, events, deliveries, notices } }: { person: PersonView }) {
  return (
    <div className="p-4 flex flex-col gap-6">
      <section>
        <h2 className="font-semibold text-lg mb-1">Consent</h2>
        {consent.length === 0 && <p className="text-quiet">None.</p>}
        {consent.map(({ purpose, state }) => (
          <p key={purpose}>
            <strong>{purpose}</strong>: <StateMark state={state} />
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
              <StateMark state={state} />
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
