export { filesOf, MAYBE_PICTURE, ownPicture, PICTURE_ADDRESS, pictureAddress, withPictures } from './ownFiles.ts';
export { AUTOFILL_TOKENS, controlOf, countryOptions, type Control } from './controls.ts';
export {
  AT_FIELD,
  ELAPSED_FIELD,
  KEPT_FIELD,
  LATER_FIELD,
  KEY_FIELD,
  keptName,
  PAGE_FIELD,
  PLACEMENT_FIELD,
  REFERRER_FIELD,
  SHOWING_FIELD,
  STAMP_FIELD,
  TOOK_FIELD,
  TRAP_FIELD,
  VARIANT_FIELD,
  VERSION_FIELD,
  VISITOR_FIELD,
  WORK_FIELD,
  type KeptFile,
} from './inputs.ts';
export {
  BLOCK_KINDS,
  questionsOf,
  shownItems,
  type BlockKind,
  type FormItem,
  type SeenBlock,
  type ShownQuestion,
  type Skip,
} from './items.ts';
export { FORM_LANGUAGES, languageFor, type FormLanguage } from './languages.ts';
export { asksAll, FIRST_PAGE, pagesOf, THE_END, type FormPage } from './pages.ts';
export { answeredFields, answeredId, forVisitor, insteadFor } from './visitors.ts';
export {
  faceOf,
  GOALS,
  intoVariant,
  pickVariant,
  variantName,
  withVariant,
  type Compared,
  type FormVariant,
  type Goal,
  type Variant,
  type VariantFace,
} from './variants.ts';
export { endOf, hasWays, readWay, wayName, waysTaken, type Way } from './ways.ts';
export { endingFor, walk, type WalkFacts } from './walking.ts';
export { answersIn, filledIn, saying, type Download, type Ending, type EndingIf } from './endings.ts';
export {
  ALIGNS,
  BUTTON_WIDTHS,
  FONTS,
  LABELS,
  PLAIN_LOOK,
  PLAIN_NIGHT,
  SPACINGS,
  type Backdrop,
  type Colours,
  type Font,
  type Look,
} from './look.ts';
