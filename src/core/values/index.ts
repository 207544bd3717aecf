export { normaliseEmail, parseEmail } from './email.ts';
export { FIELD_TYPES, isEmpty, isTicked, parseFieldValue, printValue } from './fields.ts';
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
export { UNKNOWN_MANNER, type Manner } from './type.ts';
export { ADDRESS_PARTS } from './types/postalAddress.ts';
export { COUNTRY_CODES } from './types/country.ts';
