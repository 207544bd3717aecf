import { RefreshCw, Undo2, X } from 'lucide-react';
import { useState } from 'react';
import type { PlaceView } from '../../../contract/people.ts';
import { ApiProblem } from '../../data/api.ts';
import { useChangePlace, usePlaces, type PlaceAct } from '../../data/people.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError, Loaded } from '../../parts/States.tsx';
import { StateMark } from '../../parts/StateMark.tsx';

/** How the other systems hold a person, asked at this moment, and what can be changed there from here. */
export function Places({ personId }: { personId: string }) {
  const places = usePlaces(personId);
  return (
    <section>
      <div className="flex items-center justify-between gap-2 mb-1">
        <h3 className="font-semibold">In other systems</h3>
        <button className="btn btn-sm" onClick={() => void places.refetch()} disabled={places.isFetching}>
          <RefreshCw size={15} aria-hidden="true" /> {places.isFetching ? 'Asking' : 'Ask again'}
        </button>
      </div>
      <Loaded query={places}>
        {(list) =>
          list.length === 0 ? (
            <p className="text-muted">Nothing was sent for this person to a system that can be asked.</p>
          ) : (
            <div className="flex flex-col gap-3">
              {list.map((place) => (
                <PlaceBox key={`${place.connectionId} ${place.kind}`} personId={personId} place={place} />
              ))}
            </div>
          )
        }
      </Loaded>
    </section>
  );
}

function PlaceBox({ personId, place }: { personId: string; place: PlaceView }) {
  const { connectionName, kindName, problem, held, can } = place;
  const [leaving, setLeaving] = useState(false);
  const [undo, setUndo] = useState<PlaceAct | null>(null);
  const change = useChangePlace(personId, place);
  const onAct = (what: PlaceAct) =>
    change.mutate(what, {
      onSuccess: () => {
        setUndo(what.act === 'take out' || what.act === 'take tag off' ? { ...what, act: 'put back' } : null);
        setLeaving(false);
      },
    });
  const act = (what: PlaceAct) => () => onAct(what);
  return (
    <div className="box p-3 flex flex-col gap-2">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <p>
          <strong className="font-semibold">{connectionName}</strong>
          {kindName && <span className="text-muted"> · {kindName}</span>}
          {held && (held.standing ?? held.state) !== '' && (
            <span className="ml-3">
              {held.standing === null ? held.state : <StateMark of="subscription" state={held.standing} />}
            </span>
          )}
        </p>
        {held?.standing === 'subscribed' && can.standings.includes('unsubscribed') && (
          <button className="btn btn-sm" onClick={() => setLeaving(true)}>
            Unsubscribe there
          </button>
        )}
        {held?.standing === 'unsubscribed' && can.standings.includes('subscribed') && (
          <button className="btn btn-sm" onClick={act({ act: 'subscribe' })} disabled={change.isPending}>
            Subscribe again
          </button>
        )}
      </div>
      {problem && <p className="text-error">It could not be asked: {problem}</p>}
      {!problem && !held && <p className="text-warning">Nobody of that address is there.</p>}
      {held && (
        <dl className="grid grid-cols-[7rem_1fr] gap-x-3 gap-y-1">
          {held.lists.length > 0 && (
            <Items
              term="Lists"
              items={held.lists.map(({ id, name }) => ({ name, act: { act: 'take out' as const, list: id } }))}
              verb={can.leaveLists ? 'Take out of' : null}
              onAct={onAct}
              isBusy={change.isPending}
            />
          )}
          {held.groups.length > 0 && (
            <Items
              term="Groups"
              items={held.groups.map(({ id, name, list }) => ({
                name,
                act: { act: 'take out' as const, list, group: id },
              }))}
              verb={can.leaveGroups ? 'Take out of' : null}
              onAct={onAct}
              isBusy={change.isPending}
            />
          )}
          {held.tags.length > 0 && (
            <Items
              term="Tags"
              items={held.tags.map((tag) => ({ name: tag, act: { act: 'take tag off' as const, tag } }))}
              verb={can.untag ? 'Take off' : null}
              onAct={onAct}
              isBusy={change.isPending}
            />
          )}
          {held.fields.map(({ label, value }) => (
            <Row key={label} term={label}>
              {value}
            </Row>
          ))}
        </dl>
      )}
      {undo && (
        <p role="status">
          Done there.{' '}
          <button className="btn btn-xs" onClick={act(undo)} disabled={change.isPending}>
            <Undo2 size={13} aria-hidden="true" /> Put back
          </button>
        </p>
      )}
      {!leaving && <ActionError error={change.error} />}
      <Dialog title={`Unsubscribe in ${connectionName}?`} open={leaving} onClose={() => setLeaving(false)}>
        <UnsubscribeForm
          error={change.error}
          isBusy={change.isPending}
          onDo={(reason) => onAct({ act: 'unsubscribe', reason })}
        />
      </Dialog>
    </div>
  );
}

interface ItemsProps {
  term: string;
  items: { name: string; act: PlaceAct }[];
  /** null when it cannot be undone there. */
  verb: string | null;
  onAct: (act: PlaceAct) => void;
  isBusy: boolean;
}

function Items({ term, items, verb, onAct, isBusy }: ItemsProps) {
  return (
    <Row term={term}>
      <span className="flex flex-wrap gap-x-3 gap-y-1">
        {items.map(({ name, act }) => (
          <span key={name} className="inline-flex items-center">
            {name}
            {verb && (
              <button
                className="btn btn-xs btn-ghost btn-square"
                aria-label={`${verb} ${name}`}
                title={`${verb} ${name}`}
                onClick={() => onAct(act)}
                disabled={isBusy}
              >
                <X size={13} aria-hidden="true" />
              </button>
            )}
          </span>
        ))}
      </span>
    </Row>
  );
}

function Row({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-muted">{term}</dt>
      <dd className="break-words min-w-0">{children}</dd>
    </>
  );
}

interface UnsubscribeFormProps {
  error: unknown;
  isBusy: boolean;
  onDo: (reason: string) => void;
}

function UnsubscribeForm({ error, isBusy, onDo }: UnsubscribeFormProps) {
  const [reason, setReason] = useState('');
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onDo(reason);
      }}
    >
      <Field
        label="How did the person ask for it?"
        help="It is written down as consent withdrawn, with these words as evidence."
        error={error instanceof ApiProblem ? error.about('/reason') : undefined}
      >
        <input className="input w-full" value={reason} onChange={(event) => setReason(event.target.value)} />
      </Field>
      <button className="btn btn-sm btn-primary self-start" disabled={isBusy}>
        Unsubscribe
      </button>
    </form>
  );
}
