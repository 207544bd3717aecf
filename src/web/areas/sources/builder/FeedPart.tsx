import { useState } from 'react';
import { Link } from 'react-router';
import type { ConnectionView } from '../../../../contract/connection.ts';
import type { RouteView } from '../../../../contract/route.ts';
import type { SourceView } from '../../../../contract/source.ts';
import { lineId, plainLine } from '../../../../core/mapping/index.ts';
import { fieldsFor, type Target } from '../../../../core/plan/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';
import { useConnections, useMakeAll } from '../../../data/connections.ts';
import { useFieldUses, useKeepRoute, useRoutesOf } from '../../../data/routes.ts';
import { ActionError } from '../../../parts/States.tsx';
import { MakingTrouble } from '../../connections/MakingTrouble.tsx';
import { typeThere } from '../../routes/missing.ts';

interface FeedPartProps {
  source: SourceView;
  field: SourceField;
}

/** Where the answer goes, by the routes that read it; and into which further fields of destinations it can go. */
export function FeedPart({ source, field }: FeedPartProps) {
  const uses = useFieldUses(source.id)(field.id);
  const routes = useRoutesOf(source.id);
  return (
    <section aria-label="Where the answer goes" className="border-t border-base-300 pt-3 flex flex-col gap-2">
      <p className="text-muted text-sm">Where the answer goes</p>
      {uses.length > 0 && (
        <ul>
          {uses.map(({ route, what }) => (
            <li key={`${route.id} ${what}`}>
              <Link className="plain-link" to={`/routes/${route.id}`}>
                {route.name}
              </Link>
              : {what}
            </li>
          ))}
        </ul>
      )}
      {routes.length === 0 ? (
        <Link className="plain-link" to={`/routes?new=${source.id}`}>
          Nowhere yet. Wire the form to a destination.
        </Link>
      ) : (
        <>
          {uses.length === 0 && <p>To no destination yet; it is kept with the submission.</p>}
          {routes.flatMap((route) =>
            route.draft.targets.map((target) => (
              <FeedTarget key={`${route.id} ${target.id}`} route={route} target={target} field={field} />
            )),
          )}
        </>
      )}
    </section>
  );
}

const MAKE = 'make it there';

function FeedTarget({ route, target, field }: { route: RouteView; target: Target; field: SourceField }) {
  const connection = useConnections().data?.find(({ id }) => id === target.connectionId);
  if (!connection?.catalogue) return null;
  return <Feed route={route} target={target} field={field} connection={connection} catalogue={connection.catalogue} />;
}

interface FeedProps {
  route: RouteView;
  target: Target;
  field: SourceField;
  connection: ConnectionView;
  catalogue: NonNullable<ConnectionView['catalogue']>;
}

/** Feeds a field of one destination with an answer: in the draft of the route, which is published there. */
function Feed({ route, target, field, connection, catalogue }: FeedProps) {
  const keep = useKeepRoute(route.id);
  const make = useMakeAll(connection.id);
  const [trouble, setTrouble] = useState<unknown>(null);
  const [fed, setFed] = useState('');
  const free = fieldsFor(catalogue, target).filter(({ key }) => !target.lines.some(({ to }) => to === key));
  const feeds = async (to: string, name: string) => {
    setTrouble(null);
    const line = plainLine({ id: lineId(to), to, from: { kind: 'field', field: field.id } });
    const targets = route.draft.targets.map((one) =>
      one.id === target.id ? { ...one, lines: [...one.lines, line] } : one,
    );
    try {
      await keep.save({ ...route.draft, targets }, route.draftAt);
      setFed(name);
    } catch (error) {
      setTrouble(error);
    }
  };
  const choose = (value: string) => {
    if (value !== MAKE) {
      void feeds(value, free.find(({ key }) => key === value)?.label ?? value);
      return;
    }
    const type = typeThere(field, catalogue.can);
    const name = field.label.slice(0, 120);
    make.mutate([{ what: 'field', name, list: '', kind: target.kind, type, choices: field.options }], {
      onSuccess: ({ ids: [made] }) => {
        if (made !== undefined) void feeds(made, name);
      },
    });
  };
  return (
    <div className="flex flex-col gap-1">
      <select
        className="select select-sm w-full"
        aria-label={`Feed a field in ${connection.name}`}
        value=""
        disabled={make.isPending}
        onChange={({ target: { value } }) => choose(value)}
      >
        <option value="">
          {make.isPending ? 'Making it there' : `feed a field in ${connection.name}, by ${route.name}`}
        </option>
        {free.map(({ key, label }) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
        {catalogue.can.makes.field && <option value={MAKE}>make “{field.label.slice(0, 60)}” there</option>}
      </select>
      {fed !== '' && (
        <p role="status" className="text-sm">
          It feeds {fed} now, in the draft of{' '}
          <Link className="plain-link" to={`/routes/${route.id}`}>
            {route.name}
          </Link>
          : publish that once the form is live.
        </p>
      )}
      <MakingTrouble making={make} />
      <ActionError error={trouble} />
    </div>
  );
}
