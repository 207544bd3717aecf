import { useState } from 'react';
import type { ConnectionView } from '../../../contract/connection.ts';
import { plainLine, lineId, type MapLine } from '../../../core/mapping/index.ts';
import type { Target } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { useMakeAll } from '../../data/connections.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { MakingTrouble } from '../connections/MakingTrouble.tsx';
import { typeThere, unusedFields } from './missing.ts';

interface MissingFieldsProps {
  target: Target;
  connection: ConnectionView;
  fields: SourceField[];
  /** Ticks that give a consent are kept as consent. */
  consentFields: string[];
  onMade: (lines: MapLine[]) => void;
}

/** Makes the fields that are missing there for what the source has, all at once, each of its type, and maps them. */
export function MissingFields({ target, connection, fields, consentFields, onMade }: MissingFieldsProps) {
  const [open, setOpen] = useState(false);
  const unused = unusedFields(target, fields, consentFields);
  if (!connection.catalogue?.can.makes.field || unused.length === 0) return null;
  return (
    <>
      <button type="button" className="btn btn-xs" onClick={() => setOpen(true)}>
        Make missing fields ({unused.length})
      </button>
      <Dialog title={`Fields to make in ${connection.name}`} open={open} onClose={() => setOpen(false)}>
        <Choice
          unused={unused}
          kind={target.kind}
          connection={connection}
          onDone={(lines) => {
            if (lines.length > 0) onMade(lines);
          }}
          onClose={() => setOpen(false)}
        />
      </Dialog>
    </>
  );
}

function Choice({
  unused,
  kind,
  connection,
  onDone,
  onClose,
}: {
  unused: SourceField[];
  kind: string;
  connection: ConnectionView;
  onDone: (lines: MapLine[]) => void;
  onClose: () => void;
}) {
  const [chosen, setChosen] = useState<string[]>(() =>
    unused.filter(({ widget }) => widget !== 'hidden').map(({ id }) => id),
  );
  const makeAll = useMakeAll(connection.id);
  const wanted = unused.filter(({ id }) => chosen.includes(id));
  const typeOf = (field: SourceField) => typeThere(field, connection.catalogue?.can);
  const make = () =>
    makeAll.mutate(
      wanted.map((field) => ({
        what: 'field' as const,
        name: field.label.slice(0, 120),
        list: '',
        kind,
        type: typeOf(field),
        choices: field.options,
      })),
      {
        onSuccess: ({ ids, trouble }) => {
          onDone(
            ids.flatMap((to, index) => {
              const field = wanted[index];
              return field ? [plainLine({ id: lineId(to), to, from: { kind: 'field', field: field.id } })] : [];
            }),
          );
          if (trouble === null) onClose();
        },
      },
    );
  return (
    <div className="flex flex-col gap-3">
      <p>Nothing of this target uses these fields of the source yet. Chosen ones are made there and mapped.</p>
      <ul className="flex flex-col gap-1">
        {unused.map((field) => (
          <li key={field.id}>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm self-center"
                checked={chosen.includes(field.id)}
                onChange={({ target: { checked } }) =>
                  setChosen((before) => (checked ? [...before, field.id] : before.filter((id) => id !== field.id)))
                }
              />
              <span className="font-semibold">{field.label}</span>
              <span className="text-muted text-sm">
                as {typeOf(field)}
                {typeOf(field) === field.type ? '' : `, since ${field.type} cannot be made there`}
              </span>
            </label>
          </li>
        ))}
      </ul>
      <MakingTrouble making={makeAll} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={makeAll.isPending || wanted.length === 0} onClick={make}>
          {makeAll.isPending ? 'Making them' : `Make and map ${wanted.length}`}
        </button>
        <button className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
      </div>
    </div>
  );
}
