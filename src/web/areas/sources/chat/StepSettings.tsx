import type { ChatStep } from '../../../../core/chat/index.ts';
import type { ChatDocument } from '../../../../core/intake/index.ts';
import { FIELD_TYPES, type SourceField } from '../../../../core/values/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { KeptAs, OPTION_LABELS } from '../fieldParts.tsx';
import { changeStep, STEP_WORDS } from './chatEdits.ts';
import { Rules } from './Rules.tsx';
import { AddButton, FieldSelect, Onward, OnwardSelect, RemoveButton, replacedAt } from './StepControls.tsx';

interface StepSettingsProps {
  document: ChatDocument;
  step: ChatStep;
  known: SourceField[];
  set: (part: Partial<ChatDocument>) => void;
}

/** What one step says and does. */
export function StepSettings({ document, step, known, set }: StepSettingsProps) {
  const { parts, fields } = document;
  const change = (next: ChatStep) => set({ parts: changeStep(parts, next) });
  const part = parts.find(({ steps }) => steps.some(({ id }) => id === step.id));
  const changeField = (id: string, more: Partial<SourceField>) =>
    set({ fields: fields.map((field) => (field.id === id ? { ...field, ...more } : field)) });
  return (
    <div className="flex flex-col gap-4">
      {part && (
        <Field label="Part" help="Other steps lead there by this name.">
          <input
            className="input w-full"
            value={part.name}
            onChange={({ target }) =>
              set({ parts: parts.map((one) => (one.id === part.id ? { ...one, name: target.value } : one)) })
            }
          />
        </Field>
      )}
      <h2 className="font-semibold text-lg">{STEP_WORDS[step.kind]}</h2>
      {'text' in step && step.kind !== 'notify' && (
        <Field label="What is said" help="{name} stands for what was answered to the field of that name.">
          <textarea
            className="textarea w-full"
            rows={3}
            value={step.text}
            onChange={({ target }) => change({ ...step, text: target.value })}
          />
        </Field>
      )}
      <OfKind {...{ document, step, known, change, changeField, set }} />
    </div>
  );
}

interface OfKindProps extends StepSettingsProps {
  change: (next: ChatStep) => void;
  changeField: (id: string, more: Partial<SourceField>) => void;
}

function OfKind({ document, step, known, change, changeField, set }: OfKindProps) {
  const { parts, fields } = document;
  switch (step.kind) {
    case 'choose':
      return (
        <fieldset className="flex flex-col gap-2">
          <legend className="font-semibold">Answers</legend>
          {step.choices.map((choice, at) => (
            <div key={at} className="flex gap-2">
              <input
                className="input input-sm flex-1 min-w-0"
                aria-label={`Answer ${at + 1}`}
                value={choice.label}
                onChange={({ target }) => setChoices(replacedAt(step.choices, at, { ...choice, label: target.value }))}
              />
              <Onward
                label={`Where answer ${at + 1} leads`}
                parts={parts}
                value={choice.to}
                onChange={(to) => setChoices(replacedAt(step.choices, at, { ...choice, to }))}
              />
              <RemoveButton
                label={`Remove answer ${at + 1}`}
                onPress={() => setChoices(step.choices.filter((_, other) => other !== at))}
              />
            </div>
          ))}
          <AddButton label="Answer" onPress={() => setChoices([...step.choices, { label: 'Another', to: '' }])} />
        </fieldset>
      );
    case 'ask': {
      const field = fields.find(({ id }) => id === step.field);
      return (
        <>
          {field && (
            <Field label="What it is" help="Only this is understood; anything else is asked again, twice at most.">
              <select
                className="select w-full"
                value={field.type}
                onChange={({ target }) => changeField(field.id, { type: target.value as SourceField['type'] })}
              >
                {FIELD_TYPES.filter((type) => type !== 'list of records').map((type) => (
                  <option key={type}>{type}</option>
                ))}
              </select>
            </Field>
          )}
          {field?.type === 'file' && (
            <>
              <Field label={OPTION_LABELS.file ?? ''}>
                <LinesInput rows={2} lines={field.options} onChange={(options) => changeField(field.id, { options })} />
              </Field>
              <TickBox
                label="Visitors can skip this"
                checked={!field.required}
                onChange={(may) => changeField(field.id, { required: !may })}
              />
            </>
          )}
          {field && <KeptAs field={field} onChange={(more) => changeField(field.id, more)} />}
          <Field label="If the answer is still unclear">
            <OnwardSelect
              parts={parts}
              value={step.otherwise}
              onChange={(otherwise) => change({ ...step, otherwise })}
            />
          </Field>
        </>
      );
    }
    case 'form':
      return (
        <Field label="Fields" help="What it asks for, all at once.">
          <select
            multiple
            className="select w-full h-40"
            value={step.fields}
            onChange={({ target }) =>
              change({ ...step, fields: [...target.selectedOptions].map((option) => option.value) })
            }
          >
            {fields.map(({ id, label }) => (
              <option key={id} value={id}>
                {label}
              </option>
            ))}
          </select>
        </Field>
      );
    case 'consent':
      return (
        <Field label="The words that they agree to" help="Kept as evidence; a route asks by this field.">
          <textarea
            className="textarea w-full"
            rows={2}
            value={fields.find(({ id }) => id === step.field)?.label ?? ''}
            onChange={({ target }) => changeField(step.field, { label: target.value })}
          />
        </Field>
      );
    case 'decide':
      return (
        <Rules {...{ parts, fields, known }} rules={step.rules} onChange={(rules) => change({ ...step, rules })} />
      );
    case 'look up':
      return (
        <>
          <Field label="By the answer to">
            <FieldSelect fields={fields} value={step.from} onChange={(from) => change({ ...step, from })} />
          </Field>
          <Field label="The list" help="A line each: the answer, a tab or =, and what stands beside it.">
            <LinesInput
              rows={5}
              lines={step.pairs.map(([answer, value]) => `${answer} = ${value}`)}
              onChange={(lines) =>
                change({
                  ...step,
                  pairs: lines.map((line): [string, string] => {
                    const [answer = '', ...rest] = line.split(/\s*[=\t]\s*/);
                    return [answer, rest.join(' = ')];
                  }),
                })
              }
            />
          </Field>
          <Field label="Written into">
            <FieldSelect fields={fields} value={step.into} onChange={(into) => change({ ...step, into })} />
          </Field>
          {fields
            .filter(({ id }) => id === step.into)
            .map((field) => (
              <KeptAs key={field.id} field={field} onChange={(more) => changeField(field.id, more)} />
            ))}
          <Field label="Otherwise">
            <input
              className="input w-full"
              value={step.otherwise}
              onChange={({ target }) => change({ ...step, otherwise: target.value })}
            />
          </Field>
        </>
      );
    case 'notify':
      return (
        <>
          <Field label="To" help="An address in each line.">
            <LinesInput
              rows={2}
              lines={step.to}
              onChange={(to) => change({ ...step, to: to.map((one) => one.trim()).filter((one) => one !== '') })}
            />
          </Field>
          <Field label="Subject">
            <input
              className="input w-full"
              value={step.subject}
              onChange={({ target }) => change({ ...step, subject: target.value })}
            />
          </Field>
          <Field label="Text" help="{name} stands for what was answered to the field of that name.">
            <textarea
              className="textarea w-full"
              rows={4}
              value={step.text}
              onChange={({ target }) => change({ ...step, text: target.value })}
            />
          </Field>
        </>
      );
    case 'hand over':
      return (
        <>
          <FigureInput
            label="Seconds to wait for somebody"
            value={step.seconds}
            least={5}
            most={3600}
            onChange={(seconds) => change({ ...step, seconds })}
          />
          <p className="text-muted text-sm">Conversations that wait stand in Activity, under Chats.</p>
          <Field label="If nobody comes">
            <OnwardSelect
              parts={parts}
              value={step.otherwise}
              onChange={(otherwise) => change({ ...step, otherwise })}
            />
          </Field>
        </>
      );
    case 'jump':
      return (
        <Field label="Where it goes on">
          <OnwardSelect parts={parts} value={step.to} onChange={(to) => change({ ...step, to })} />
        </Field>
      );
    case 'end':
      return (
        <>
          <Field label="Link" help="Where people go from here; may be empty.">
            <input
              className="input w-full"
              value={step.link}
              placeholder="https://"
              onChange={({ target }) => change({ ...step, link: target.value.trim() })}
            />
          </Field>
          {step.link !== '' && (
            <Field label="Words of the link">
              <input
                className="input w-full"
                value={step.linkText}
                onChange={({ target }) => change({ ...step, linkText: target.value })}
              />
            </Field>
          )}
        </>
      );
    default:
      return null;
  }

  function setChoices(choices: Extract<ChatStep, { kind: 'choose' }>['choices']): void {
    if (step.kind !== 'choose') return;
    const options = choices.map(({ label }) => label);
    set({
      parts: changeStep(parts, { ...step, choices }),
      fields: fields.map((field) => (field.id === step.field ? { ...field, options } : field)),
    });
  }
}
