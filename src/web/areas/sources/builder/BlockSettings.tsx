import type { ReactNode } from 'react';
import type { FormItem } from '../../../../core/forms/index.ts';
import { Field } from '../../../parts/Field.tsx';
import { PictureInput } from './PictureInput.tsx';
import { SettingsHead } from './SettingsHead.tsx';

type Block = Exclude<FormItem, { kind: 'question' }>;

interface BlockSettingsProps {
  item: Block;
  /** How wide the form is shown, in CSS pixels. */
  shownWidth: number;
  error: string | undefined;
  onChange: (part: Partial<Block>) => void;
  onClose: () => void;
  /** Further settings below those of its kind. */
  children: ReactNode;
}

const TITLES: Record<Block['kind'], string> = {
  heading: 'Heading',
  text: 'Text',
  picture: 'Picture',
  divider: 'Line',
  page: 'New page',
};

/** What can be set of something that stands between questions. */
export function BlockSettings({ item, shownWidth, error, onChange, onClose, children }: BlockSettingsProps) {
  return (
    <>
      <SettingsHead title={TITLES[item.kind]} onClose={onClose} />
      <div className="p-4 flex flex-col gap-4">
        {item.kind === 'heading' && (
          <Field label="Heading" error={error}>
            <input
              className="input w-full"
              value={item.text}
              onChange={({ target }) => onChange({ text: target.value })}
            />
          </Field>
        )}
        {item.kind === 'text' && (
          <Field label="Text" help="A blank line begins a new paragraph." error={error}>
            <textarea
              className="textarea w-full"
              rows={6}
              value={item.text}
              onChange={({ target }) => onChange({ text: target.value })}
            />
          </Field>
        )}
        {item.kind === 'picture' && (
          <>
            <PictureInput label="Picture" url={item.url} shownWidth={shownWidth} error={error} onChange={onChange} />
            <Field label="What is read aloud for it" help="What it shows; empty if it only decorates.">
              <input
                className="input w-full"
                value={item.alt}
                onChange={({ target }) => onChange({ alt: target.value })}
              />
            </Field>
          </>
        )}
        {item.kind === 'page' && (
          <Field label="Title of the page" help="Visitors read it above what stands on it." error={error}>
            <input
              className="input w-full"
              value={item.title}
              onChange={({ target }) => onChange({ title: target.value })}
            />
          </Field>
        )}
        {item.kind === 'divider' && <p className="text-muted">A line between questions.</p>}
        {children}
      </div>
    </>
  );
}
