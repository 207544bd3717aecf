export { AUTOFILL_TOKENS, controlOf, countryOptions, type Control } from './controls.ts';
export {
  ELAPSED_FIELD,
  KEY_FIELD,
  keptName,
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  STAMP_FIELD,
  TRAP_FIELD,
  VARIANT_FIELD,
  type KeptFile,
} from './inputs.ts';
export { BLOCK_KINDS, questionsOf, shownItems, type BlockKind, type FormItem, type ShownItem } from './items.ts';
export { FORM_LANGUAGES, languageFor, type FormLanguage } from './languages.ts';
export {
  ALIGNS,
  BUTTON_WIDTHS,
  FONTS,
  LABELS,
  PLAIN_LOOK,
  PLAIN_NIGHT,
  SPACINGS,
  type Colours,
  type Font,
  type Look,
} from './look.ts';
