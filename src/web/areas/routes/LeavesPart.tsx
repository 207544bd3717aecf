import { X } from 'lucide-react';
import type { Catalogue, Place, Target } from '../../../core/plan/index.ts';
import { Field } from '../../parts/Field.tsx';

interface LeavesPartProps {
  target: Target;
  catalogue: Catalogue;
  onChange: (leaves: Place[]) => void;
}

/** Places that people leave when they arrive here: whoever becomes a member leaves the list of those who only asked. */
export function LeavesPart({ target: { leaves, places: into }, catalogue: { lists, can }, onChange }: LeavesPartProps) {
  const places = lists.flatMap((one) => [
    ...(can.leavesLists ? [{ list: one.id, group: '', name: one.name }] : []),
    ...(can.leavesGroups
      ? one.groups.map((inside) => ({ list: one.id, group: inside.id, name: `${one.name}: ${inside.name}` }))
      : []),
  ]);
  const isChosen = (place: Place) => leaves.some((left) => left.list === place.list && left.group === place.group);
  const isTarget = (place: Place) =>
    into.some(({ list, group }) => (place.group === '' ? place.list === list : place.group === group));
  const open = places.filter((place) => !isChosen(place) && !isTarget(place));
  const nameOf = (place: Place) =>
    places.find((one) => one.list === place.list && one.group === place.group)?.name ?? 'a place that is gone there';
  return (
    <div className="flex flex-col gap-1">
      <Field label="Take out of" help={`People who are in it leave it when they arrive here. Others are not touched.`}>
        <select
          className="select w-full sm:w-1/2"
          value=""
          onChange={(event) => {
            const place = open[Number(event.target.value)];
            if (place) onChange([...leaves, { list: place.list, group: place.group }]);
          }}
        >
          <option value="">{leaves.length === 0 ? 'nothing' : 'another one'}</option>
          {open.map((place, index) => (
            <option key={`${place.list} ${place.group}`} value={index}>
              {place.name}
            </option>
          ))}
        </select>
      </Field>
      <ul className="flex flex-wrap gap-2">
        {leaves.map((place) => (
          <li key={`${place.list} ${place.group}`} className="box px-2 py-1 flex items-center gap-1">
            {nameOf(place)}
            <button
              className="btn btn-xs btn-ghost btn-square"
              aria-label={`Do not take people out of ${nameOf(place)}`}
              onClick={() => onChange(leaves.filter((one) => one !== place))}
            >
              <X size={14} aria-hidden="true" />
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
