import { parseAsStringLiteral, useQueryState } from 'nuqs';
import { useId } from 'react';
import { AGREED_EVENT, AGREED_FLAG } from '../../../core/showing/index.ts';
import { CopyButton } from '../../parts/CopyButton.tsx';

/** How a site says, in its own script, that the visitor agreed to something being stored: before our script is there, or after. */
const AGREED_LINE = `window.${AGREED_FLAG} = 'yes'; dispatchEvent(new Event('${AGREED_EVENT}'));`;

const REMEMBERED = ['agreed', 'everybody'] as const;

/** Which visitors a site has remembered is said by the line that it carries: chosen here, kept in the address. */
export function useRemembered() {
  return useQueryState('remember', parseAsStringLiteral(REMEMBERED).withDefault('agreed'));
}

/** Asks whose browser may remember, and gives what the site has to say for it. */
export function RememberedChoice() {
  const [remembered, setRemembered] = useRemembered();
  const name = useId();
  const option = (value: (typeof REMEMBERED)[number], label: string, help: string) => (
    <label className="flex gap-2 items-start">
      <input
        type="radio"
        className="radio radio-sm mt-0.5"
        name={name}
        checked={remembered === value}
        onChange={() => void setRemembered(value)}
      />
      <span>
        {label} <span className="block text-muted text-sm">{help}</span>
      </span>
    </label>
  );
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="font-semibold mb-1">Who is remembered from page to page</legend>
      <p className="text-muted text-sm">
        In the visitor's own browser: which forms were shown, closed and sent there, which variant was met, and by what
        the visitor is known here.
      </p>
      {option(
        'agreed',
        'Those who agreed to it',
        'Nothing is stored until the site says so, by this line in what it does once somebody agrees:',
      )}
      {remembered === 'agreed' && (
        <div className="ml-6">
          <pre className="bg-base-200 p-2 text-xs font-mono whitespace-pre-wrap break-words rounded mb-1">
            {AGREED_LINE}
          </pre>
          <CopyButton text={AGREED_LINE} label="Copy this line" />
        </div>
      )}
      {option(
        'everybody',
        'Everybody, from the first page',
        'For a site that asks nobody, or that carries the line only once somebody agreed. The line to paste says so.',
      )}
    </fieldset>
  );
}
