export {
  prefixFor,
  printClosed,
  printForm,
  printFormToCopy,
  printFresh,
  printMessage,
  printPlaced,
  type Printed,
} from './print.tsx';
export { unfitIn, wordsIn, type Say } from './words/index.ts';
export { languageOf } from './language.ts';
