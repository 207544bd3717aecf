import { useEndSessions, useOpenSessions } from '../../data/session.ts';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { Time } from '../../parts/Time.tsx';

/** Where one is signed in, and the way out of it. */
export function OpenSessions() {
  const sessions = useOpenSessions();
  const end = useEndSessions();
  return (
    <section aria-labelledby="open-sessions" className="flex flex-col gap-2">
      <h2 id="open-sessions" className="font-semibold text-lg">
        Where you are signed in
      </h2>
      <Loaded query={sessions}>
        {(list) => (
          <>
            <table className="rows w-full">
              <thead>
                <tr>
                  <th scope="col">Browser</th>
                  <th scope="col">Since</th>
                  <th scope="col">Ends</th>
                  <th scope="col">
                    <span className="sr-only">Actions</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {list.map(({ id, browser, beganAt, endsAt, here }) => (
                  <tr key={id}>
                    <td className="font-semibold">{browser || 'not known'}</td>
                    <td>{beganAt ? <Time at={beganAt} /> : 'not known'}</td>
                    <td>
                      <Time at={endsAt} coming />
                    </td>
                    <td>
                      {here ? (
                        <span className="text-muted">this browser</span>
                      ) : (
                        <button className="btn btn-xs" disabled={end.isPending} onClick={() => end.mutate({ id })}>
                          Sign out there
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {list.length > 2 && (
              <button className="btn btn-sm self-start" disabled={end.isPending} onClick={() => end.mutate('others')}>
                Sign out everywhere else
              </button>
            )}
          </>
        )}
      </Loaded>
      <ActionError error={end.error} />
    </section>
  );
}
