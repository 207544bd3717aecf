import { Plus, Trash2 } from 'lucide-react';
import { TRIGGER_KINDS, type Trigger, type TriggerKind } from '../../../core/showing/index.ts';

const TRIGGER_WORDS: Record<TriggerKind, string> = {
  after: 'after some seconds',
  scroll: 'when the page is scrolled',
  leaving: 'when the visitor is about to leave',
  idle: 'when nothing was done for some time',
  click: 'when something is clicked',
  pages: 'after some pages',
};

const NEW_TRIGGERS: { [K in TriggerKind]: Extract<Trigger, { kind: K }> } = {
  after: { kind: 'after', seconds: 5 },
  scroll: { kind: 'scroll', percent: 25, direction: 'down' },
  leaving: { kind: 'leaving', sensitivity: 'late' },
  idle: { kind: 'idle', seconds: 30 },
  click: { kind: 'click', selector: '' },
  pages: { kind: 'pages', count: 3 },
};

interface TriggersProps {
  /** What they do: such as What shows it. */
  legend: string;
  triggers: Trigger[];
  onChange: (triggers: Trigger[]) => void;
  error: string | undefined;
}

/** What shows or opens something: any one of these. */
export function Triggers({ legend, triggers, onChange, error }: TriggersProps) {
  const left = TRIGGER_KINDS.filter((kind) => !triggers.some((trigger) => trigger.kind === kind));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="font-semibold mb-1">
        {legend}
        {triggers.length > 1 && ' (any of these)'}
      </legend>
      {triggers.map((trigger, at) => (
        <div key={trigger.kind} className="flex flex-wrap items-center gap-2">
          <span>{TRIGGER_WORDS[trigger.kind]}</span>
          <TriggerParts
            trigger={trigger}
            onChange={(next) => onChange(triggers.map((one, index) => (index === at ? next : one)))}
          />
          <button
            className="btn btn-xs btn-ghost btn-square ml-auto"
            aria-label={`Remove: ${TRIGGER_WORDS[trigger.kind]}`}
            onClick={() => onChange(triggers.filter((one) => one !== trigger))}
          >
            <Trash2 size={14} aria-hidden="true" />
          </button>
        </div>
      ))}
      {left.length > 0 && (
        <div className="flex items-center gap-1">
          <Plus size={14} aria-hidden="true" />
          <select
            className="select select-sm w-full"
            aria-label={`Add: ${legend}`}
            value=""
            onChange={({ target }) => onChange([...triggers, NEW_TRIGGERS[target.value as TriggerKind]])}
          >
            <option value="">{triggers.length === 0 ? 'add one' : 'add another'}</option>
            {left.map((kind) => (
              <option key={kind} value={kind}>
                {TRIGGER_WORDS[kind]}
              </option>
            ))}
          </select>
        </div>
      )}
      {error && <p className="text-error font-semibold">{error}</p>}
    </fieldset>
  );
}

function TriggerParts({ trigger, onChange }: { trigger: Trigger; onChange: (trigger: Trigger) => void }) {
  const figure = (label: string, value: number, change: (value: number) => Trigger) => (
    <input
      type="number"
      min={0}
      className="input input-sm w-20"
      aria-label={label}
      value={value}
      onChange={({ target }) => onChange(change(Math.round(target.valueAsNumber) || 0))}
    />
  );
  switch (trigger.kind) {
    case 'after':
    case 'idle':
      return figure('Seconds', trigger.seconds, (seconds) => ({ ...trigger, seconds }));
    case 'pages':
      return figure('Pages', trigger.count, (count) => ({ ...trigger, count }));
    case 'scroll':
      return (
        <>
          {figure('Percent of the page', trigger.percent, (percent) => ({ ...trigger, percent }))}%
          <select
            className="select select-sm w-auto"
            aria-label="Direction"
            value={trigger.direction}
            onChange={({ target }) => onChange({ ...trigger, direction: target.value as 'down' | 'up' })}
          >
            <option>down</option>
            <option>up</option>
          </select>
        </>
      );
    case 'leaving':
      return (
        <select
          className="select select-sm w-auto"
          aria-label="How soon it is noticed"
          value={trigger.sensitivity}
          onChange={({ target }) => onChange({ ...trigger, sensitivity: target.value as 'quick' | 'late' })}
        >
          <option value="late">at the edge</option>
          <option value="quick">on the way there</option>
        </select>
      );
    case 'click':
      return (
        <input
          className="input input-sm w-36 font-mono"
          aria-label="What is clicked, as a CSS selector"
          placeholder=".offer"
          value={trigger.selector}
          onChange={({ target }) => onChange({ ...trigger, selector: target.value })}
        />
      );
    default:
      return trigger satisfies never;
  }
}
