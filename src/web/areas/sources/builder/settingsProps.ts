import type { FormDocument } from '../../../../core/intake/index.ts';
import type { SourceField } from '../../../../core/values/index.ts';

/** What every part of a form's settings is handed. */
export interface SettingsProps {
  /** What may be known of visitors, as fields that conditions ask about. */
  known: SourceField[];
  document: FormDocument;
  set: (part: Partial<FormDocument>) => void;
  /** What is wrong with the part at a JSON Pointer. */
  about: (pointer: string) => string | undefined;
}
