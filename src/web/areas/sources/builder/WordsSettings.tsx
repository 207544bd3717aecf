import { FORM_LANGUAGES } from '../../../../core/forms/index.ts';
import type { FormDocument } from '../../../../core/intake/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { TrustField } from '../TrustField.tsx';
import type { SettingsProps } from './settingsProps.ts';

const nameOf = (language: string): string =>
  new Intl.DisplayNames(['en'], { type: 'language' }).of(language) ?? language;

/** The words of the form as a whole, and what comes after it is sent. */
export function WordsSettings({ document, set, about, onSelect }: SettingsProps & { onSelect: (id: string) => void }) {
  const hidden = document.fields.filter(({ widget }) => widget === 'hidden');
  return (
    <div className="flex flex-col gap-4">
      <Field label="Heading" help="What visitors read above it. Empty: none." error={about('/title')}>
        <input
          className="input w-full"
          value={document.title}
          onChange={({ target }) => set({ title: target.value })}
        />
      </Field>
      <Field label="Button" error={about('/button')}>
        <input
          className="input w-full"
          value={document.button}
          onChange={({ target }) => set({ button: target.value })}
        />
      </Field>
      <Field
        label="Consent sentence above the button"
        help="What people agree to by sending the form. Not needed with a tick box for it."
        error={about('/statement')}
      >
        <textarea
          className="textarea w-full"
          rows={2}
          value={document.statement}
          onChange={({ target }) => set({ statement: target.value })}
        />
      </Field>
      <Field
        label="Language of our own words"
        help="Such as “optional”, and what is said of mistakes. What you write yourself stays as it is."
      >
        <select
          className="select w-full"
          value={document.language}
          onChange={({ target }) => set({ language: target.value as FormDocument['language'] })}
        >
          <option value="visitor">the visitor&apos;s, as the browser asks</option>
          {FORM_LANGUAGES.map((language) => (
            <option key={language} value={language}>
              {nameOf(language)}
            </option>
          ))}
        </select>
      </Field>
      <h3 className="font-semibold border-t border-base-300 pt-3">More</h3>
      {hidden.length > 0 && (
        <div>
          <p className="font-semibold">Hidden fields</p>
          <ul>
            {hidden.map(({ id, label, preset }) => (
              <li key={id}>
                <button className="plain-link" onClick={() => onSelect(id)}>
                  {label}
                </button>{' '}
                <span className="text-muted">{preset === '' ? 'set by the page' : preset}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      <Field
        label="Reset button"
        help="Its text: it puts the form back as it was shown. Most forms do without, since it is pressed by mistake."
        error={about('/resetLabel')}
      >
        <input
          className="input w-full"
          value={document.resetLabel}
          placeholder="none"
          onChange={({ target }) => set({ resetLabel: target.value })}
        />
      </Field>
      <TrustField trust={document.trust} onChange={(trust) => set({ trust })} error={about('/trust')} />
    </div>
  );
}
