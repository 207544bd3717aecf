import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { factFields } from '../../../../core/intake/index.ts';
import {
  chainTrouble,
  lineValue,
  offersAfter,
  optionsOf,
  startType,
  stepInWords,
  stepOf,
  type DestinationField,
  type MapLine,
  type Step,
  type StepFacts,
  type StepOffer,
} from '../../../../core/mapping/index.ts';
import { answersOf, printValue, type SourceField } from '../../../../core/values/index.ts';
import { addStep, moveStep, removeStep, tellStep } from './lineEdits.ts';
import { Picker } from '../../../parts/Picker.tsx';
import { StepOptionInput } from './StepOptionInput.tsx';

interface StepsEditorProps {
  field: DestinationField;
  line: MapLine;
  fields: SourceField[];
  facts: StepFacts;
  lines: MapLine[];
  onChange: (lines: MapLine[]) => void;
}

/** The steps of a line in their order, each with what it is told and what comes out of it for the sample. */
export function StepsEditor({ field, line, fields, facts, lines, onChange }: StepsEditorProps) {
  const type = startType(line.from, factFields(fields)) ?? 'text';
  const trouble = chainTrouble(type, line.steps);
  const start = lineValue({ ...line, steps: [] }, facts);
  const offers = offersAfter(type, line.steps);
  return (
    <div className="flex flex-col gap-2">
      <h5 className="font-semibold">Steps</h5>
      <ol className="flex flex-col gap-2" aria-label={`Steps of ${field.label}`}>
        {line.steps.length > 0 && (
          <li className="text-muted text-sm">{start.ok ? `It comes as "${printValue(start.value)}".` : ''}</li>
        )}
        {line.steps.map((step, index) => (
          <li key={step.id} className="box p-2 flex flex-col gap-2">
            <div className="flex items-center gap-1">
              <span className="font-semibold whitespace-nowrap">{stepInWords(step)}</span>
              <span className="text-muted text-sm">{stepOf(step.kind).help}</span>
              <span className="flex-1" />
              <StepButton
                icon={ArrowUp}
                label={`Move the step ${stepInWords(step)} up`}
                disabled={index === 0}
                onClick={() => onChange(moveStep(lines, field.key, step.id, -1))}
              />
              <StepButton
                icon={ArrowDown}
                label={`Move the step ${stepInWords(step)} down`}
                disabled={index === line.steps.length - 1}
                onClick={() => onChange(moveStep(lines, field.key, step.id, 1))}
              />
              <StepButton
                icon={X}
                label={`Take the step ${stepInWords(step)} away from ${field.label}`}
                onClick={() => onChange(removeStep(lines, field.key, step.id))}
              />
            </div>
            <Options
              step={step}
              line={line}
              fields={fields}
              choices={field.choices}
              onTell={(told) => onChange(tellStep(lines, field.key, step.id, told))}
            />
            <p className="text-sm" aria-live="polite">
              <After line={{ ...line, steps: line.steps.slice(0, index + 1) }} facts={facts} />
            </p>
            {trouble?.index === index && (
              <p role="alert" className="text-error font-semibold">
                It cannot take {trouble.came}.{' '}
                {trouble.mend ? `Put the step "${stepInWords(trouble.mend)}" before it.` : 'Take it away.'}
              </p>
            )}
          </li>
        ))}
      </ol>
      {trouble === null && (
        <Picker<StepOffer & { id: string; hint: string }>
          label={`Add a step to ${field.label}: type its name`}
          shown=""
          placeholder="add a step: type its name"
          className="w-72"
          picksFor={(typed) => picksFor(offers, typed)}
          onPick={(offer) => onChange(addStep(lines, field.key, offer))}
        />
      )}
    </div>
  );
}

function picksFor(offers: StepOffer[], typed: string) {
  const sought = typed.trim().toLowerCase();
  return offers
    .map((offer) => ({
      ...offer,
      id: offer.name,
      hint: '',
      text: `${offer.name} ${stepOf(offer.kind).help}`.toLowerCase(),
    }))
    .filter(({ text }) => text.includes(sought))
    .sort((a, b) => Number(b.name.toLowerCase().includes(sought)) - Number(a.name.toLowerCase().includes(sought)));
}

function Options({
  step,
  line,
  fields,
  choices,
  onTell,
}: {
  step: Step;
  line: MapLine;
  fields: SourceField[];
  choices: string[];
  onTell: (told: Step['options']) => void;
}) {
  const told = optionsOf(step);
  const { from } = line;
  const asked = from.kind === 'field' && fields.find(({ id }) => id === from.field);
  const answers = asked ? answersOf(asked) : [];
  const options = Object.entries(stepOf(step.kind).options);
  if (options.length === 0) return null;
  return (
    <div className="grid gap-2 sm:grid-cols-2">
      {options.map(([name, option]) => (
        <StepOptionInput
          key={name}
          option={option}
          told={told[name] ?? option.preset}
          fields={fields}
          answers={answers}
          choices={choices}
          onTell={(value) => onTell({ [name]: value })}
        />
      ))}
    </div>
  );
}

function After({ line, facts }: { line: MapLine; facts: StepFacts }) {
  const after = lineValue(line, facts);
  if (!after.ok) return <span className="text-error">It {after.issue}.</span>;
  const words = printValue(after.value);
  return words === '' ? (
    <span className="text-muted">gives nothing for the sample</span>
  ) : (
    <span>
      <span className="text-muted">gives</span> <span className="font-semibold break-words">{words}</span>
    </span>
  );
}

function StepButton({
  icon: Icon,
  label,
  disabled = false,
  onClick,
}: {
  icon: typeof X;
  label: string;
  disabled?: boolean;
  onClick: () => void;
}) {
  return (
    <button className="btn btn-ghost btn-xs btn-square" aria-label={label} disabled={disabled} onClick={onClick}>
      <Icon size={13} aria-hidden="true" />
    </button>
  );
}
