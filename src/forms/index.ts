export { fontsOf, printFontFaces, SHIPPED_FONTS } from './fonts.ts';
export { HOST_CSS } from './css.ts';
export {
  baseOf,
  prefixFor,
  printClosed,
  printEnding,
  type EndingFacts,
  printForm,
  printFormToCopy,
  printFresh,
  printInstead,
  printMessage,
  printPlaced,
  type Printed,
} from './print.tsx';
export { issuesIn } from './issuesIn.ts';
export { unfitIn, wordsIn, type Say } from './words/index.ts';
export { chatLineIn } from './chatLine.ts';
export { languageOf } from './language.ts';
