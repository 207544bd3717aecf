import { useState, type SubmitEvent } from 'react';
import { Link } from 'react-router';
import type { BulkInput, HeldGroupView } from '../../../contract/deliveries.ts';
import { DestinationInput } from '../../parts/DestinationInput.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { ActionError } from '../../parts/States.tsx';
import { useConnections } from '../../data/connections.ts';
import { useBulk } from '../../data/activity.ts';

type Act = BulkInput['act'];
type More = Partial<Pick<BulkInput, 'reason' | 'field' | 'value'>>;

/** What can be done to a whole held group, with how far it has come and what stayed. */
export function HeldGroupActions({ group }: { group: HeldGroupView }) {
  const { cause, connectionId, count } = group;
  const [done, setDone] = useState(0);
  const [dialog, setDialog] = useState<'set a value' | 'drop' | null>(null);
  const bulk = useBulk(setDone);
  const act = (name: Act, more: More = {}) => {
    setDone(0);
    setDialog(null);
    bulk.mutate({ act: name, cause, connectionId, reason: '', field: '', value: '', ...more });
  };
  const button = (name: Act, label: string, isFirst = false) => (
    <button
      className={`btn btn-xs ${isFirst ? 'btn-primary' : ''}`}
      disabled={bulk.isPending}
      onClick={() => act(name)}
    >
      {label}
    </button>
  );
  return (
    <div className="px-3 pb-3 flex flex-col gap-2">
      <div className="flex flex-wrap gap-1">
        {cause === 'left there before' && button('ask to confirm', `Ask all ${count} to confirm`, true)}
        {cause === 'unclear' && button('it arrived', 'All arrived')}
        {cause === 'to be ended by hand' && button('it arrived', 'All done there by hand', true)}
        {cause === 'required field missing' && (
          <button className="btn btn-xs btn-primary" disabled={bulk.isPending} onClick={() => setDialog('set a value')}>
            Set a value for all
          </button>
        )}
        {button('retry', `Retry all ${count} as planned`)}
        {button('retry under the present route', 'Retry all under the present route')}
        <button className="btn btn-xs btn-ghost" disabled={bulk.isPending} onClick={() => setDialog('drop')}>
          Drop all
        </button>
        <Link className="btn btn-xs btn-ghost" to={`/connections/${connectionId}`}>
          Open {group.connectionName}
        </Link>
      </div>
      {bulk.isPending && (
        <p role="status">
          {done} of {count} done
        </p>
      )}
      {bulk.data && (
        <div role="status">
          <p>
            {bulk.data.done} went on{bulk.data.stayed.length > 0 ? `, ${bulk.data.stayed.length} stayed:` : '.'}
          </p>
          <ul className="text-sm">
            {bulk.data.stayed.slice(0, 5).map(({ id, email, why }) => (
              <li key={id}>
                {email}: {why}
              </li>
            ))}
          </ul>
        </div>
      )}
      <ActionError error={bulk.error} />
      <Dialog title={`Set a value for all ${count}`} open={dialog === 'set a value'} onClose={() => setDialog(null)}>
        <SetValueForm group={group} onSet={(more) => act('set a value', more)} />
      </Dialog>
      <Dialog title={`Drop all ${count}?`} open={dialog === 'drop'} onClose={() => setDialog(null)}>
        <DropAllForm onDrop={(reason) => act('drop', { reason })} />
      </Dialog>
    </div>
  );
}

const ANY_TEXT = { type: 'text' as const, choices: [], maxLength: null };

function SetValueForm({ group, onSet }: { group: HeldGroupView; onSet: (more: More) => void }) {
  const connections = useConnections();
  const catalogue = connections.data?.find(({ id }) => id === group.connectionId)?.catalogue;
  const fields = [...(catalogue?.fields ?? []), ...(catalogue?.kinds.flatMap((kind) => kind.fields) ?? [])];
  const required = fields.filter((field) => field.required);
  const named = fields.find(({ label, key }) => group.detail.includes(label) || group.detail.includes(key));
  const [field, setField] = useState('');
  const [value, setValue] = useState('');
  const chosen = field || (named?.key ?? required[0]?.key ?? '');
  const choose = (key: string) => {
    setField(key);
    setValue('');
  };
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    onSet({ field: chosen, value });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>
        The value fills the missing field, and the deliveries are retried. For later submissions, set it on the route.
      </p>
      <Field label="Field">
        <select className="select w-full" value={chosen} onChange={(event) => choose(event.target.value)}>
          {[...new Map(fields.map((one) => [one.key, one])).values()].map(({ key, label, required: isRequired }) => (
            <option key={key} value={key}>
              {label}
              {isRequired ? ' (required)' : ''}
            </option>
          ))}
        </select>
      </Field>
      <DestinationInput
        key={chosen}
        field={fields.find(({ key }) => key === chosen) ?? ANY_TEXT}
        label="Value"
        value={value}
        onChange={setValue}
      />
      <button className="btn btn-sm btn-primary self-start" disabled={value.trim() === '' || chosen === ''}>
        Set it and retry
      </button>
    </form>
  );
}

function DropAllForm({ onDrop }: { onDrop: (reason: string) => void }) {
  const [reason, setReason] = useState('');
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    onDrop(reason);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <p>None of them will be sent, and none can be taken up again. The submissions and the people stay.</p>
      <Field label="Why" help="Stays in each trail.">
        <input className="input w-full" value={reason} onChange={(event) => setReason(event.target.value)} />
      </Field>
      <button className="btn btn-sm btn-error self-start" disabled={reason.trim().length < 3}>
        Drop them
      </button>
    </form>
  );
}
