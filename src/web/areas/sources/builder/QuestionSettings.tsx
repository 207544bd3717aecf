import type { ReactNode } from 'react';
import type { SourceView } from '../../../../contract/source.ts';
import { AUTOFILL_TOKENS } from '../../../../core/forms/index.ts';
import {
  FIELD_TYPES,
  isTick,
  PLAIN_RANGE,
  widgetsOf,
  WIDTHS,
  type Range,
  type SourceField,
  type TypeName,
  type Widget,
  type Width,
} from '../../../../core/values/index.ts';
import { FigureInput } from '../../../parts/FigureInput.tsx';
import { LinesInput } from '../../../parts/LinesInput.tsx';
import { TickBox } from '../../../parts/TickBox.tsx';
import { KeptAs, OPTION_LABELS, Preset } from '../fieldParts.tsx';
import { Labelled } from '../../../parts/Labelled.tsx';
import { FeedPart } from './FeedPart.tsx';
import { PictureInput } from './PictureInput.tsx';
import { SettingsHead } from './SettingsHead.tsx';

interface QuestionSettingsProps {
  source: SourceView;
  field: SourceField;
  error: string | undefined;
  onChange: (part: Partial<SourceField>) => void;
  onClose: () => void;
  /** Further settings. */
  children: ReactNode;
}

const WIDGET_WORDS: Record<Widget, string> = {
  usual: 'usual',
  buttons: 'buttons',
  pictures: 'pictures',
  search: 'list with search',
  stars: 'stars',
  scale: 'scale',
  country: 'with its country',
  hidden: 'hidden: visitors do not see it',
};

/** What the usual widget of a type is called. */
const usualWord = (type: TypeName): string =>
  ({ 'yes/no': 'tick box', choice: 'drop-down', 'several choices': 'tick boxes' })[type as string] ??
  WIDGET_WORDS.usual;

/** What can be set of one question. */
export function QuestionSettings({ source, field, error, onChange, onClose, children }: QuestionSettingsProps) {
  const { label, type, widget, required, options, help, errorText, width, labelShown } = field;
  const isShown = widget !== 'hidden';
  const optionLabel = OPTION_LABELS[type];
  return (
    <>
      <SettingsHead title={label} onClose={onClose} />
      <div className="p-4 flex flex-col gap-3">
        {error && (
          <p role="alert" className="text-error font-semibold">
            {error}
          </p>
        )}
        <Labelled label={isTick(field) ? 'Words beside the box' : 'Label'}>
          {isTick(field) ? (
            <textarea
              className="textarea w-full"
              rows={3}
              value={label}
              onChange={({ target }) => onChange({ label: target.value })}
            />
          ) : (
            <input
              className="input input-sm w-full"
              value={label}
              onChange={({ target }) => onChange({ label: target.value })}
            />
          )}
        </Labelled>
        <div className="grid grid-cols-2 gap-3">
          <Labelled label="Type">
            <select
              className="select select-sm w-full"
              value={type}
              onChange={({ target }) => onChange({ type: target.value as TypeName })}
            >
              {FIELD_TYPES.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </Labelled>
          <Labelled label="Entered by">
            <select
              className="select select-sm w-full"
              value={widget}
              onChange={({ target }) => onChange({ widget: target.value as Widget })}
            >
              {widgetsOf(type).map((one) => (
                <option key={one} value={one}>
                  {one === 'usual' ? usualWord(type) : WIDGET_WORDS[one]}
                </option>
              ))}
            </select>
          </Labelled>
        </div>
        {isShown && (
          <div className="flex flex-wrap gap-x-5 gap-y-1">
            <TickBox label="required" checked={required} onChange={(checked) => onChange({ required: checked })} />
            {!isTick(field) && (
              <TickBox
                label="label is seen"
                checked={labelShown}
                onChange={(checked) => onChange({ labelShown: checked })}
              />
            )}
          </div>
        )}
        {optionLabel && (
          <Labelled label={optionLabel}>
            <LinesInput
              lines={options}
              onChange={(lines) => onChange({ options: lines })}
              rows={Math.max(type === 'file' ? 1 : 3, options.length + 1)}
            />
          </Labelled>
        )}
        {widget === 'pictures' && (
          <div className="flex flex-col gap-4">
            {options.map((option, at) => (
              <PictureInput
                key={option}
                label={`Picture of ${option}`}
                url={field.pictures[at] ?? ''}
                shownWidth={160}
                onChange={({ url }) =>
                  onChange({
                    pictures: options.map((_, index) => (index === at ? url : (field.pictures[index] ?? ''))),
                  })
                }
              />
            ))}
          </div>
        )}
        {(widget === 'stars' || widget === 'scale') && (
          <RangePart range={field.range ?? PLAIN_RANGE} onChange={(range) => onChange({ range })} />
        )}
        {widget === 'country' && (
          <Labelled label="Country that is chosen at first, such as GB">
            <input
              className="input input-sm w-full"
              value={field.preset}
              maxLength={2}
              onChange={({ target }) => onChange({ preset: target.value.trim().toUpperCase() })}
            />
          </Labelled>
        )}
        {!isShown && (
          <Labelled label="Value, unless the page sets another">
            <Preset field={field} onChange={onChange} />
          </Labelled>
        )}
        {isShown && (
          <>
            <Labelled label="Help below it">
              <input
                className="input input-sm w-full"
                value={help}
                onChange={({ target }) => onChange({ help: target.value })}
              />
            </Labelled>
            <Labelled label="What is said when it cannot be taken">
              <input
                className="input input-sm w-full"
                placeholder="what is wrong with it, in our words"
                value={errorText}
                onChange={({ target }) => onChange({ errorText: target.value })}
              />
            </Labelled>
            <div className="grid grid-cols-2 gap-3">
              <Labelled label="Width">
                <select
                  className="select select-sm w-full"
                  value={width}
                  onChange={({ target }) => onChange({ width: target.value as Width })}
                >
                  {WIDTHS.map((one) => (
                    <option key={one}>{one}</option>
                  ))}
                </select>
              </Labelled>
              {isTyped(field) && (
                <>
                  <Labelled label="Placeholder">
                    <input
                      className="input input-sm w-full"
                      value={field.placeholder}
                      onChange={({ target }) => onChange({ placeholder: target.value })}
                    />
                  </Labelled>
                  <Labelled label="First value">
                    <Preset field={field} onChange={onChange} />
                  </Labelled>
                  <Labelled label="Browsers fill in">
                    <select
                      className="select select-sm w-full"
                      value={field.autocomplete}
                      onChange={({ target }) => onChange({ autocomplete: target.value })}
                    >
                      <option value="">what it means</option>
                      {AUTOFILL_TOKENS.map((token) => (
                        <option key={token} value={token}>
                          {token === 'off' ? 'nothing' : token}
                        </option>
                      ))}
                    </select>
                  </Labelled>
                </>
              )}
            </div>
          </>
        )}
        <div className="grid grid-cols-2 gap-3 border-t border-base-300 pt-3">
          <Labelled label="Field name">
            <input
              className="input input-sm w-full font-mono"
              value={field.key}
              spellCheck={false}
              onChange={({ target }) => onChange({ key: target.value })}
            />
          </Labelled>
          <KeptAs field={field} onChange={onChange} />
        </div>
        {children}
        <FeedPart source={source} field={field} />
      </div>
    </>
  );
}

/** Whether an answer is typed, so that something can stand in its place beforehand. */
const isTyped = ({ type, widget }: SourceField): boolean =>
  !['yes/no', 'several choices', 'file', 'list of records', 'person name', 'postal address', 'membership'].includes(
    type,
  ) &&
  (widget === 'usual' || widget === 'search');

function RangePart({ range, onChange }: { range: Range; onChange: (range: Range) => void }) {
  const figure = (label: string, part: 'from' | 'to') => (
    <FigureInput
      label={label}
      most={10}
      value={range[part]}
      onChange={(value) => onChange({ ...range, [part]: value })}
    />
  );
  const words = (label: string, part: 'low' | 'high') => (
    <Labelled label={label}>
      <input
        className="input input-sm w-full"
        value={range[part]}
        onChange={({ target }) => onChange({ ...range, [part]: target.value })}
      />
    </Labelled>
  );
  return (
    <div className="grid grid-cols-2 gap-3">
      {figure('From', 'from')}
      {figure('To', 'to')}
      {words('The lowest means', 'low')}
      {words('The highest means', 'high')}
    </div>
  );
}
