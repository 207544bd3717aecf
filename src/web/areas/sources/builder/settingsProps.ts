import type { FormDocument } from '../../../../core/intake/index.ts';

/** What every part of a form's settings is handed. */
export interface SettingsProps {
  document: FormDocument;
  set: (part: Partial<FormDocument>) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}
