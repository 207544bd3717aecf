import type { Check } from '../check.ts';
import { choiceWithoutLookUp } from './choiceWithoutLookUp.ts';
import { conditionNeverHolds } from './conditionNeverHolds.ts';
import { confirmationPlaceholders } from './confirmationMail.ts';
import { flagFromWords } from './flagFromWords.ts';
import { listIntoText } from './listIntoText.ts';
import { lookUpMisses } from './lookUpMisses.ts';
import { lookUpUnknownThere } from './lookUpUnknownThere.ts';
import { mayBeTooLong } from './mayBeTooLong.ts';
import { neverFits } from './neverFits.ts';
import { sameListTwice } from './sameListTwice.ts';
import { oneTickForTwo, tickedAlready } from './tickedAlready.ts';
import { severalForOne } from './severalForOne.ts';
import { writtenValues } from './writtenValues.ts';

/** Every check that has a file of its own. */
export const CHECKS: Check[] = [
  tickedAlready,
  oneTickForTwo,
  confirmationPlaceholders,
  neverFits,
  writtenValues,
  lookUpUnknownThere,
  lookUpMisses,
  choiceWithoutLookUp,
  severalForOne,
  flagFromWords,
  mayBeTooLong,
  listIntoText,
  sameListTwice,
  conditionNeverHolds,
];
