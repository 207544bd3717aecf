import { Lightbulb, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { PartIssue } from '../../../contract/checks.ts';
import type { ConnectionView } from '../../../contract/connection.ts';
import { inSentence } from '../../../core/conditions/index.ts';
import { suggestLines, type SuggestFacts } from '../../../core/mapping/index.ts';
import {
  fieldsFor,
  type Catalogue,
  type ConsentAsk,
  type DuplicatePolicy,
  type Target,
} from '../../../core/plan/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { Field } from '../../parts/Field.tsx';
import { MakeButton } from '../connections/MakeForm.tsx';
import { capital } from '../../parts/words.ts';
import { LeavesPart } from './LeavesPart.tsx';
import { ConditionPart } from '../../parts/conditions/ConditionPart.tsx';
import { useAskable } from '../../parts/conditions/knowledge.ts';
import { NeedPart } from './NeedPart.tsx';
import { PlacesPart } from './PlacesPart.tsx';
import { addFreeLine } from './lines/lineEdits.ts';
import { MappingTable } from './lines/MappingTable.tsx';
import { MissingFields } from './MissingFields.tsx';
import { sureLines, withKind } from './routeEdits.ts';
import { TagsPart } from './TagsPart.tsx';

const POLICIES: [DuplicatePolicy, string, string][] = [
  ['update', 'Update', 'new values replace those held there'],
  ['fill gaps', 'Fill gaps', 'only what is empty there is filled'],
  ['leave alone', 'Leave alone', 'nothing is changed'],
  ['add', 'Add another', 'every submission adds something new'],
];

interface TargetPartProps {
  target: Target;
  /** As the strip calls it. */
  name: string;
  /** The consents that the route asks for. */
  asks: ConsentAsk[];
  fields: SourceField[];
  connections: ConnectionView[];
  values: FieldValues;
  /** What helps to suggest lines. */
  hints: SuggestFacts;
  issues: PartIssue[];
  /** The targets before it, of which it may be the alternative. */
  before: { id: string; name: string; branch: string | null }[];
  onJoin: (targetId: string | null) => void;
  onChange: (target: Target) => void;
  onRemove: () => void;
}

/** One destination of a route: the place there, the mapping, the tags, and what happens to people already there. */
export function TargetPart({
  target,
  name,
  asks,
  fields,
  connections,
  values,
  hints,
  issues,
  before,
  onJoin,
  onChange,
  onRemove,
}: TargetPartProps) {
  const connection = connections.find(({ id }) => id === target.connectionId);
  const catalogue = connection?.catalogue;
  // What is not chosen yet is open to be chosen; from then on it stays as the person leaves it.
  const [isNew] = useState(
    () =>
      target.places.length === 0 &&
      connections.some(({ id, catalogue: own }) => id === target.connectionId && own?.can.lists),
  );
  const set = (part: Partial<Target>) => onChange({ ...target, ...part });
  if (!connection || !catalogue) {
    return (
      <section className="box p-4 flex justify-between gap-4">
        <p>
          {connection
            ? `What ${connection.name} offers is not known, since it has never been verified.`
            : 'The connection of this target was removed.'}
        </p>
        <div className="flex flex-wrap gap-2">
          {connection && (
            <Link className="btn btn-sm" to={`/connections/${connection.id}`}>
              Open the connection
            </Link>
          )}
          <button className="btn btn-sm" onClick={onRemove}>
            Remove the target
          </button>
        </div>
      </section>
    );
  }
  const { can } = catalogue;
  const destination = fieldsFor(catalogue, target);
  const suggestions = suggestLines(fields, destination, [], hints);
  const sure = sureLines(suggestLines(fields, destination, target.lines, hints));
  return (
    <section className="flex flex-col gap-3" aria-label={`Target ${name}`}>
      <h3 className="sr-only">To {name}</h3>
      {issues.map(({ pointer, detail }) => (
        <p key={pointer} role="alert" className="text-error font-semibold">
          {detail}
        </p>
      ))}
      <details className="box" open={isNew}>
        <summary className="px-3 py-1.5 cursor-pointer">
          <TargetInWords target={target} catalogue={catalogue} fields={fields} />
        </summary>
        <div className="p-3 flex flex-col gap-4 border-t border-base-300">
          <div className="grid gap-4 sm:grid-cols-3">
            {can.kinds && (
              <Field label={capital(can.calls.kind)}>
                <select
                  className="select w-full"
                  value={target.kind}
                  onChange={(event) => onChange(withKind(target, event.target.value, catalogue, { fields, hints }))}
                >
                  {catalogue.kinds.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </Field>
            )}
            <Field label="Who is there already" help={POLICIES.find(([policy]) => policy === target.duplicates)?.[2]}>
              <select
                className="select w-full"
                value={target.duplicates}
                onChange={(event) => set({ duplicates: event.target.value as DuplicatePolicy })}
              >
                {POLICIES.filter(([policy]) => can.duplicates.includes(policy)).map(([policy, name]) => (
                  <option key={policy} value={policy}>
                    {name}
                  </option>
                ))}
              </select>
            </Field>
          </div>
          {can.lists && (
            <PlacesPart
              places={target.places}
              connection={connection}
              catalogue={catalogue}
              fields={fields}
              values={values}
              onChange={(places) => set({ places })}
            />
          )}
          {(asks.length > 0 || target.needs !== null) && (
            <NeedPart needs={target.needs} asks={asks} onChange={(needs) => set({ needs })} />
          )}
          <ConditionPart when={target.when} fields={fields} values={values} onChange={(when) => set({ when })} />
          {before.length > 0 && (
            <Field
              label="Beside other targets"
              help={
                target.branch === null
                  ? 'It goes there whatever else happens.'
                  : 'It goes there only where nobody went to those before.'
              }
            >
              <select
                className="select select-sm w-auto"
                value={before.find(({ branch }) => branch !== null && branch === target.branch)?.id ?? ''}
                onChange={(event) => onJoin(event.target.value || null)}
              >
                <option value="">by itself</option>
                {before.map(({ id, name: other }) => (
                  <option key={id} value={id}>
                    only those who do not go to {other}
                  </option>
                ))}
              </select>
            </Field>
          )}
          <div>
            <button className="btn btn-sm btn-ghost" onClick={onRemove}>
              <Trash2 size={15} aria-hidden="true" /> Remove target
            </button>
          </div>
        </div>
      </details>
      <div>
        <div className="flex items-center justify-between gap-2 mb-1">
          <h4 className="font-semibold">Mapping</h4>
          <div className="flex gap-2">
            {sure.length > 0 && (
              <button className="btn btn-xs" onClick={() => set({ lines: [...target.lines, ...sure] })}>
                <Lightbulb size={13} aria-hidden="true" /> Fill in {sure.length} that {sure.length === 1 ? 'is' : 'are'}{' '}
                sure
              </button>
            )}
            <MissingFields
              target={target}
              connection={connection}
              fields={fields}
              consentFields={asks.map(({ tickField }) => tickField)}
              onMade={(lines) => set({ lines: [...target.lines, ...lines] })}
            />
            <MakeButton connection={connection} what="field" kind={target.kind} />
          </div>
        </div>
        <MappingTable
          targetId={target.id}
          destination={destination}
          lines={target.lines}
          suggestions={suggestions}
          fields={fields}
          values={values}
          looks={can.duplicates.includes('fill gaps')}
          onChange={(lines) => set({ lines })}
        />
      </div>
      {(can.leavesLists || can.leavesGroups) && (
        <LeavesPart target={target} catalogue={catalogue} onChange={(leaves) => set({ leaves })} />
      )}
      {can.freeFields && <FreeField onAdd={(key) => set({ lines: addFreeLine(target.lines, key) })} />}
      {can.tags && (
        <TagsPart
          target={target}
          fields={fields}
          known={catalogue.tags.map(({ name }) => name)}
          canTakeOff={can.untags}
          values={values}
          onChange={set}
        />
      )}
    </section>
  );
}

/** Who goes there, into which places, and what becomes of those who are there, in one sentence. */
function TargetInWords({
  target: { when, places, kind, duplicates },
  catalogue,
  fields,
}: {
  target: Target;
  catalogue: Catalogue;
  fields: SourceField[];
}) {
  const askable = useAskable(fields);
  const into = places.map(({ list, group }) => {
    const own = catalogue.lists.find(({ id }) => id === list);
    const inside = own?.groups.find(({ id }) => id === group);
    return [own?.name ?? list, inside?.name ?? group].filter((name) => name !== '').join(', ');
  });
  const parts = [
    when === null ? 'Everybody' : `Only if ${inSentence(when, askable.all)}`,
    catalogue.kinds.find(({ id }) => id === kind)?.name ?? '',
    into.length > 0 ? `into ${into.join(' and ')}` : catalogue.can.lists ? `into no ${catalogue.can.calls.list}` : '',
    POLICIES.find(([policy]) => policy === duplicates)?.[2] ?? '',
  ];
  return <span>{parts.filter((part) => part !== '').join(' · ')}</span>;
}

/** Names a field for a service that takes any. */
function FreeField({ onAdd }: { onAdd: (key: string) => void }) {
  const [key, setKey] = useState('');
  return (
    <form
      className="flex gap-2 items-end"
      onSubmit={(event) => {
        event.preventDefault();
        onAdd(key);
        setKey('');
      }}
    >
      <Field label="Add a field there" help="It takes any name: choose what the other side expects.">
        <input className="input input-sm w-64 font-mono" value={key} onChange={(event) => setKey(event.target.value)} />
      </Field>
      <button className="btn btn-sm self-start mt-6" disabled={key.trim() === ''}>
        Add
      </button>
    </form>
  );
}
