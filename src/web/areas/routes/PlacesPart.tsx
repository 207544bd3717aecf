import { Plus, X } from 'lucide-react';
import type { ConnectionView } from '../../../contract/connection.ts';
import type { Catalogue, CatalogueList, TargetPlace } from '../../../core/plan/index.ts';
import type { FieldValues, SourceField } from '../../../core/values/index.ts';
import { Field } from '../../parts/Field.tsx';
import { capital } from '../../parts/words.ts';
import { MakeButton } from '../connections/MakeForm.tsx';
import { AnswerPlaces } from './AnswerPlaces.tsx';
import { ConditionPart } from '../../parts/conditions/ConditionPart.tsx';
import { setGroup } from '../../parts/conditions/conditionEdits.ts';
import { newPartId } from '../../parts/newPartId.ts';

interface PlacesPartProps {
  places: TargetPlace[];
  connection: ConnectionView;
  catalogue: Catalogue;
  fields: SourceField[];
  /** Of the sample. */
  values: FieldValues;
  onChange: (places: TargetPlace[]) => void;
}

/** The lists and groups that people are put into: any number, each for everybody or for some. */
export function PlacesPart({ places, connection, catalogue, fields, values, onChange }: PlacesPartProps) {
  const { calls } = catalogue.can;
  // The first one that people go into: groups by answer lie in it.
  const list = catalogue.lists.find(({ id }) => places.some((place) => place.list === id));
  // There is always one to choose; it is kept once something is chosen.
  const shown = places.length > 0 ? places : [{ id: 'p1', list: '', group: '', when: null }];
  const set = (place: TargetPlace) => {
    const next = shown.map((one) => (one.id === place.id ? place : one));
    onChange(next.length === 1 && place.list === '' ? [] : next);
  };
  const remove = (id: string) => onChange(shown.filter((one) => one.id !== id));
  const choices = fields.filter(({ options, type }) => type !== 'file' && options.length > 0);
  const byAnswer = (within: CatalogueList | null) => (
    <AnswerPlaces
      connection={connection}
      list={within}
      choices={choices}
      onChoose={(more) => onChange([...places, ...more])}
    />
  );
  return (
    <div className="flex flex-col gap-4">
      {shown.map((place, index) => (
        <PlaceRow
          key={place.id}
          place={place}
          number={index + 1}
          connection={connection}
          catalogue={catalogue}
          fields={fields}
          values={values}
          onChange={set}
          onRemove={shown.length > 1 ? () => remove(place.id) : null}
        />
      ))}
      {places.length === 0 && byAnswer(null)}
      {places.length > 0 && (
        <div className="flex flex-wrap gap-2">
          <button
            className="btn btn-xs"
            onClick={() => onChange([...places, { id: newPartId(), list: '', group: '', when: null }])}
          >
            <Plus size={13} aria-hidden="true" /> Another {calls.list}
          </button>
          {byAnswer(null)}
          {catalogue.can.groups && list && byAnswer(list)}
        </div>
      )}
    </div>
  );
}

interface PlaceRowProps extends Omit<PlacesPartProps, 'places' | 'onChange'> {
  place: TargetPlace;
  /** Counted from 1. */
  number: number;
  onChange: (place: TargetPlace) => void;
  onRemove: (() => void) | null;
}

function PlaceRow({ place, number, connection, catalogue, fields, values, onChange, onRemove }: PlaceRowProps) {
  const { lists, can } = catalogue;
  const list = lists.find(({ id }) => id === place.list);
  const which = number === 1 ? '' : ` ${number}`;
  return (
    <div className={`flex flex-col items-start gap-4 ${number === 1 ? '' : 'border-t border-base-300 pt-3'}`}>
      <div className="grid w-full gap-4 sm:grid-cols-[1fr_1fr_auto]">
        <div className="flex flex-col gap-1">
          <Field label={capital(can.calls.list) + which}>
            <select
              className="select w-full"
              value={place.list}
              onChange={(event) => onChange({ ...place, list: event.target.value, group: '' })}
            >
              <option value="">no {can.calls.list}</option>
              {place.list !== '' && !list && <option value={place.list}>a {can.calls.list} that is gone there</option>}
              {lists.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </Field>
          <MakeButton
            connection={connection}
            what="list"
            onMade={(id) => onChange({ ...place, list: id, group: '' })}
          />
        </div>
        {can.groups ? (
          <div className="flex flex-col gap-1">
            <Field
              label={capital(can.calls.group) + which}
              {...(list && list.groups.length === 0 ? { help: 'This list has no groups.' } : {})}
            >
              <select
                className="select w-full"
                value={place.group}
                onChange={(event) => onChange({ ...place, group: event.target.value })}
                disabled={!list || list.groups.length === 0}
              >
                <option value="">no {can.calls.group}</option>
                {list?.groups.map(({ id, name }) => (
                  <option key={id} value={id}>
                    {name}
                  </option>
                ))}
              </select>
            </Field>
            {list && (
              <MakeButton
                connection={connection}
                what="group"
                list={list.id}
                onMade={(id) => onChange({ ...place, group: id })}
              />
            )}
          </div>
        ) : (
          <span />
        )}
        {onRemove && (
          <button
            className="btn btn-sm btn-ghost btn-square mt-7"
            aria-label={`Put nobody into ${can.calls.list} ${number}`}
            onClick={onRemove}
          >
            <X size={15} aria-hidden="true" />
          </button>
        )}
      </div>
      {place.when !== null ? (
        <ConditionPart
          when={place.when}
          fields={fields}
          values={values}
          words={{ who: 'Who goes into it', holds: 'it goes into it' }}
          onChange={(when) => onChange({ ...place, when })}
        />
      ) : (
        number > 1 && (
          <button className="btn btn-xs" onClick={() => onChange({ ...place, when: setGroup(null, 'all', fields) })}>
            For some people only
          </button>
        )
      )}
    </div>
  );
}
