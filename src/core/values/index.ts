export { normaliseEmail, parseEmail } from './email.ts';
export {
  FIELD_PARTS,
  FIELD_TYPES,
  heldType,
  isEmpty,
  isTicked,
  parseFieldValue,
  printValue,
  sentFor,
} from './fields.ts';
export type { FieldType, SourceField } from './fields.ts';
export {
  convert,
  holds,
  inWords,
  shapeOf,
  TYPE_NAMES,
  typeOf,
  type FieldValue,
  type FieldValues,
  type TypeName,
} from './registry.ts';
export { COUNTRY_CODES } from './types/country.ts';
export { UNKNOWN_MANNER } from './type.ts';
