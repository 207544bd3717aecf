import { X } from 'lucide-react';
import { useState } from 'react';
import type { PurposeView } from '../../../contract/purposes.ts';
import { CHANNELS, fitsWording } from '../../../core/consent/index.ts';
import { wordingOf, type ConsentAsk } from '../../../core/plan/index.ts';
import type { SourceField } from '../../../core/values/index.ts';
import { useAddPurpose, useChangePurpose } from '../../data/purposes.ts';
import { ChannelBoxes } from '../../parts/ChannelBoxes.tsx';
import { Dialog } from '../../parts/Dialog.tsx';
import { Field } from '../../parts/Field.tsx';
import { NameForm } from '../../parts/NameForm.tsx';
import { ActionError } from '../../parts/States.tsx';

interface AskPartProps {
  ask: ConsentAsk;
  purposes: PurposeView[];
  fields: SourceField[];
  /** The words beside the source's button. */
  statement: string;
  error: string | undefined;
  onChange: (ask: ConsentAsk) => void;
  onRemove: () => void;
}

/** One consent that people are asked for: what it is for, by what they give it, in which words, for which channels. */
export function AskPart({ ask, purposes, fields, statement, error, onChange, onRemove }: AskPartProps) {
  const [making, setMaking] = useState(false);
  const add = useAddPurpose();
  const ticks = fields.filter(({ type }) => type === 'yes/no');
  const wording = wordingOf(ask, { fields, statement });
  const purpose = purposes.find(({ id }) => id === ask.purpose);
  const choosable = purposes.filter(({ id, archived }) => !archived || id === ask.purpose);
  const channels = CHANNELS.filter(
    (channel) => !purpose || purpose.channels.includes(channel) || ask.channels.includes(channel),
  );
  const make = (name: string) =>
    add.mutate(
      { name, wordings: wording.trim() === '' ? [] : [wording], channels: ask.channels },
      {
        onSuccess: ({ id }) => {
          setMaking(false);
          onChange({ ...ask, purpose: id });
        },
      },
    );
  return (
    <div className="flex flex-col gap-2 border-l-2 border-base-300 pl-3">
      <div className="grid gap-4 sm:grid-cols-[1fr_1fr_auto]">
        <Field label="What it is for" error={error}>
          <select
            className="select w-full"
            value={ask.purpose}
            onChange={(event) =>
              event.target.value === NEW ? setMaking(true) : onChange({ ...ask, purpose: event.target.value })
            }
          >
            <option value="">choose a purpose</option>
            {choosable.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
            <option value={NEW}>a new one…</option>
          </select>
        </Field>
        <Field label="Given by">
          <select
            className="select w-full"
            value={ask.tickField}
            onChange={(event) => onChange({ ...ask, tickField: event.target.value })}
          >
            <option value="">sending the form</option>
            {ticks.map(({ id, label }) => (
              <option key={id} value={id}>
                yes to: {label.length > 50 ? `${label.slice(0, 50)}…` : label}
              </option>
            ))}
          </select>
        </Field>
        <button
          className="btn btn-sm btn-ghost btn-square mt-7"
          aria-label="Do not ask for this consent"
          onClick={onRemove}
        >
          <X size={15} aria-hidden="true" />
        </button>
      </div>
      <Wording wording={wording} purpose={purpose} />
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1 items-center">
        <legend className="sr-only">Channels that people agree to</legend>
        <span className="font-semibold" aria-hidden="true">
          Reached by
        </span>
        <ChannelBoxes
          offered={channels}
          chosen={ask.channels}
          onChange={(chosen) => onChange({ ...ask, channels: chosen })}
        />
      </fieldset>
      <Dialog title="A new purpose" open={making} onClose={() => setMaking(false)}>
        <NameForm
          label="What people consent to"
          help={
            wording.trim() === ''
              ? 'As people know it, such as "Sky letter".'
              : `As people know it. They agree to it by: “${wording}”`
          }
          action="Make it"
          busy={add.isPending}
          error={add.error}
          onSubmit={make}
          onCancel={() => setMaking(false)}
        />
      </Dialog>
    </div>
  );
}

/** Stands for "a new one" among the purposes. */
const NEW = '+';

/** The sentence that people agree to, and whether somebody decided that it speaks of the purpose. */
function Wording({ wording, purpose }: { wording: string; purpose: PurposeView | undefined }) {
  const change = useChangePurpose();
  if (wording.trim() === '') return <p className="text-muted">Nothing says what people agree to yet.</p>;
  const fits = !purpose || fitsWording(purpose, wording);
  return (
    <div>
      <p>
        People agree to: <q>{wording}</q>
      </p>
      {purpose && !fits && (
        <div className="flex flex-wrap items-center gap-2">
          <p className="text-error font-semibold">Nobody has said yet that this is a sentence for “{purpose.name}”.</p>
          <button
            className="btn btn-sm"
            disabled={change.isPending}
            onClick={() => {
              const { name, wordings, channels } = purpose;
              change.mutate({ purpose, input: { name, channels, wordings: [...wordings, wording] } });
            }}
          >
            It is: people agree to “{purpose.name}” by it
          </button>
        </div>
      )}
      <ActionError error={change.error} />
    </div>
  );
}
