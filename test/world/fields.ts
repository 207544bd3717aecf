import type { SourceField } from '../../src/core/values/index.ts';

/** A field of a source that asks for nothing more than a test says. */
export const sourceField = (
  key: string,
  type: SourceField['type'] = 'text',
  more: Partial<SourceField> = {},
): SourceField => ({
  key,
  label: key,
  type,
  required: false,
  options: [],
  several: false,
  help: '',
  preset: '',
  keepAs: '',
  ...more,
});
