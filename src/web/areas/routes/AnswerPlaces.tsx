import { useState } from 'react';
import type { ConnectionView } from '../../../contract/connection.ts';
import { matchAnswers } from '../../../core/mapping/index.ts';
import type { CatalogueItem, CatalogueList, TargetPlace } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { useMakeAll } from '../../data/connections.ts';
import { Dialog } from '../../parts/Dialog.tsx';
import { MakingTrouble } from '../connections/MakingTrouble.tsx';
import { Field } from '../../parts/Field.tsx';
import { newPartId } from '../../parts/newPartId.ts';

interface AnswerPlacesProps {
  connection: ConnectionView;
  /** Groups in this list; null: lists. */
  list: CatalogueList | null;
  /** Those that have answers to choose from. */
  choices: SourceField[];
  onChoose: (places: TargetPlace[]) => void;
}

/** What stands for an answer: the id of a list or group, a new one of its name, or none. */
const NEW = '+';

/** Puts people into a list or a group by what they answered, for all answers at once; those that are missing are made there. */
export function AnswerPlaces({ connection, list, choices, onChoose }: AnswerPlacesProps) {
  const [open, setOpen] = useState(false);
  const what = list ? 'group' : 'list';
  const word = connection.catalogue?.can.calls[what] ?? what;
  if (choices.length === 0) return null;
  return (
    <>
      <button type="button" className="btn btn-xs self-start" onClick={() => setOpen(true)}>
        A {word} by answer
      </button>
      <Dialog title={`Into which ${word} by answer`} open={open} onClose={() => setOpen(false)}>
        <Choice
          word={word}
          connection={connection}
          list={list}
          choices={choices}
          onChoose={(places) => {
            setOpen(false);
            if (places.length > 0) onChoose(places);
          }}
        />
      </Dialog>
    </>
  );
}

function Choice({ word, connection, list, choices, onChoose }: AnswerPlacesProps & { word: string }) {
  const [field, setField] = useState(choices[0]);
  const what = list ? 'group' : 'list';
  const canMake = connection.catalogue?.can.makes[what] ?? false;
  const there: CatalogueItem[] = list ? list.groups : (connection.catalogue?.lists ?? []);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const makeAll = useMakeAll(connection.id);
  const answers = field?.options ?? [];
  const found = matchAnswers(answers, there);
  const placeOf = (answer: string) =>
    chosen[answer] ?? found.find((one) => one.answer === answer)?.id ?? (canMake ? NEW : '');
  const missing = answers.filter((answer) => placeOf(answer) === NEW);
  const choose = (made: Record<string, string>) =>
    onChoose(
      answers.flatMap((answer): TargetPlace[] => {
        const place = made[answer] ?? placeOf(answer);
        if (place === '' || place === NEW || !field) return [];
        const when = { kind: 'test' as const, id: newPartId(), field: field.id, test: 'is' as const, value: answer };
        return [{ id: newPartId(), ...(list ? { list: list.id, group: place } : { list: place, group: '' }), when }];
      }),
    );
  const confirm = () => {
    if (missing.length === 0) {
      choose({});
      return;
    }
    makeAll.mutate(
      missing.map((name) => ({
        what,
        name: name.slice(0, 120),
        list: list?.id ?? '',
        kind: '',
        type: 'text' as const,
        choices: [],
      })),
      {
        onSuccess: ({ ids, trouble }) => {
          const made = Object.fromEntries(ids.map((id, index) => [missing[index] ?? '', id]));
          if (trouble === null) choose(made);
          // What was made already is not made twice.
          else setChosen({ ...chosen, ...made });
        },
      },
    );
  };
  return (
    <div className="flex flex-col gap-3">
      {choices.length > 1 && (
        <Field label="By the answers to">
          <select
            className="select select-sm w-full"
            value={field?.id}
            onChange={({ target: { value } }) => setField(choices.find(({ id }) => id === value))}
          >
            {choices.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        </Field>
      )}
      <ul className="flex flex-col gap-1">
        {answers.map((answer) => (
          <li key={answer} className="grid grid-cols-2 gap-2 items-center">
            <span>{answer}</span>
            <select
              className="select select-sm w-full"
              aria-label={`The ${word} for ${answer}`}
              value={placeOf(answer)}
              onChange={({ target: { value } }) => setChosen({ ...chosen, [answer]: value })}
            >
              <option value="">no {word}</option>
              {canMake && <option value={NEW}>a new one of this name</option>}
              {there.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      <MakingTrouble making={makeAll} />
      <div className="flex gap-2">
        <button className="btn btn-sm btn-primary" disabled={makeAll.isPending} onClick={confirm}>
          {makeAll.isPending ? 'Making them' : missing.length > 0 ? `Make ${missing.length} and use them` : 'Use them'}
        </button>
        <button className="btn btn-sm" onClick={() => onChoose([])}>
          Cancel
        </button>
      </div>
    </div>
  );
}
