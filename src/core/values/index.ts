export { normaliseEmail, parseEmail } from './email.ts';
export { FIELD_TYPES, isEmpty, isTicked, parseFieldValue, printValue } from './fields.ts';
export type { FieldType, FieldValue, FieldValues, SourceField } from './fields.ts';
