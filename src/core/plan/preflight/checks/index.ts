import type { Check } from '../check.ts';
import { changedUnpublished } from './source/changedUnpublished.ts';
import { endingForConfirmed, endingPromises, endingSilent } from './source/endingPromises.ts';
import { goesNowhere } from './source/goesNowhere.ts';
import { identifiesNobody } from './source/identifiesNobody.ts';
import { neverFilled } from './source/neverFilled.ts';
import { branchNeverReached } from './target/branchNeverReached.ts';
import { cannotBeRead } from './target/cannotBeRead.ts';
import { accessLacks } from './target/accessLacks.ts';
import { conditionContradicts } from './target/conditionContradicts.ts';
import { conditionIncomplete } from './target/conditionIncomplete.ts';
import { conditionNeverHolds } from './target/conditionNeverHolds.ts';
import { conditionUnfit } from './target/conditionUnfit.ts';
import { conditionUnknown } from './target/conditionUnknown.ts';
import { connectionDown } from './target/connectionDown.ts';
import { lastCheckFailed } from './target/lastCheckFailed.ts';
import { leadsNowhere } from './target/leadsNowhere.ts';
import { loop } from './target/loop.ts';
import { neverTaken } from './target/neverTaken.ts';
import { notConnected } from './target/notConnected.ts';
import { nothingApplies } from './target/nothingApplies.ts';
import { oldCatalogue } from './target/oldCatalogue.ts';
import { refusesThoseWhoLeft } from './target/refusesThoseWhoLeft.ts';
import { listOfAnotherPurpose } from './target/listOfAnotherPurpose.ts';
import { sameListTwice } from './target/sameListTwice.ts';
import { tooSlow } from './target/tooSlow.ts';
import { cannotLeave } from './places/cannotLeave.ts';
import { groupGone } from './places/groupGone.ts';
import { impossiblePolicy } from './places/impossiblePolicy.ts';
import { inAndOut } from './places/inAndOut.ts';
import { kindGone } from './places/kindGone.ts';
import { leftPlaceGone } from './places/leftPlaceGone.ts';
import { listGone } from './places/listGone.ts';
import { namelessTag } from './places/namelessTag.ts';
import { newTag } from './places/newTag.ts';
import { noKind } from './places/noKind.ts';
import { noList } from './places/noList.ts';
import { noTagsThere } from './places/noTagsThere.ts';
import { renamed } from './places/renamed.ts';
import { secondChangesFirst } from './places/secondChangesFirst.ts';
import { tagOnAndOff } from './places/tagOnAndOff.ts';
import { oneListOnly } from './places/oneListOnly.ts';
import { takesAway } from './places/takesAway.ts';
import { tagsStayOn } from './places/tagsStayOn.ts';
import { testPeople } from './places/testPeople.ts';
import { cannotLook } from './mapping/cannotLook.ts';
import { chainBroken } from './mapping/chainBroken.ts';
import { choiceWithoutLookUp } from './mapping/choiceWithoutLookUp.ts';
import { clearsTheirs } from './mapping/clearsTheirs.ts';
import { fieldGone } from './mapping/fieldGone.ts';
import { flagFromWords } from './mapping/flagFromWords.ts';
import { lineIncomplete } from './mapping/lineIncomplete.ts';
import { listIntoText } from './mapping/listIntoText.ts';
import { lookUpMisses } from './mapping/lookUpMisses.ts';
import { lookUpUnknownThere } from './mapping/lookUpUnknownThere.ts';
import { mayBeTooLong } from './mapping/mayBeTooLong.ts';
import { neverFits } from './mapping/neverFits.ts';
import { samplesLeftOut } from './mapping/samplesLeftOut.ts';
import { notInSource } from './mapping/notInSource.ts';
import { overwritesBetter } from './mapping/overwritesBetter.ts';
import { ownWords } from './mapping/ownWords.ts';
import { personalInUrl } from './mapping/personalInUrl.ts';
import { requiredFromOptional } from './mapping/requiredFromOptional.ts';
import { requiredUnderCondition } from './mapping/requiredUnderCondition.ts';
import { requiredUnmapped } from './mapping/requiredUnmapped.ts';
import { severalForOne } from './mapping/severalForOne.ts';
import { unknownInText } from './mapping/unknownInText.ts';
import { wholeName } from './mapping/wholeName.ts';
import { writtenValues } from './mapping/writtenValues.ts';
import { wrongAddress } from './mapping/wrongAddress.ts';
import { boxGone } from './consent/boxGone.ts';
import { channelNotInPurpose } from './consent/channelNotInPurpose.ts';
import { channelWithoutWhere } from './consent/channelWithoutWhere.ts';
import { confirmationPlaceholders } from './consent/confirmationMail.ts';
import { confirmerAsksNobody } from './consent/confirmerAsksNobody.ts';
import { confirmerGone } from './consent/confirmerGone.ts';
import { confirmerUnknown } from './consent/confirmerUnknown.ts';
import { confirmsNothing } from './consent/confirmsNothing.ts';
import { namesUnknown, namelessWords, namelessMail } from './consent/namelessWords.ts';
import { listConfirmsUnknown } from './consent/listConfirmsUnknown.ts';
import { listWithoutConsent } from './consent/listWithoutConsent.ts';
import { needByAnotherChannel } from './consent/needByAnotherChannel.ts';
import { needNotAsked } from './consent/needNotAsked.ts';
import { needsNothing } from './consent/needsNothing.ts';
import { noAddressToConfirm } from './consent/noAddressToConfirm.ts';
import { noChannel } from './consent/noChannel.ts';
import { noLink } from './consent/noLink.ts';
import { noPurpose } from './consent/noPurpose.ts';
import { noSubject } from './consent/noSubject.ts';
import { noWords } from './consent/noWords.ts';
import { nobodyConfirms } from './consent/nobodyConfirms.ts';
import { purposeArchived } from './consent/purposeArchived.ts';
import { purposeGone } from './consent/purposeGone.ts';
import { requiredBox } from './consent/requiredBox.ts';
import { shortTime } from './consent/shortTime.ts';
import { tickedAlready, oneTickForTwo } from './consent/tickedAlready.ts';
import { twoConfirm } from './consent/twoConfirm.ts';
import { wordsOfAnother } from './consent/wordsOfAnother.ts';
import { answerWithoutAddress } from './mails/answerWithoutAddress.ts';
import { mailUnknownField } from './mails/mailUnknownField.ts';
import { mailWithoutSubject } from './mails/mailWithoutSubject.ts';
import { mailWithoutText } from './mails/mailWithoutText.ts';
import { tellsNobody } from './mails/tellsNobody.ts';
import { waitsForNothing } from './mails/waitsForNothing.ts';
import { wrongColleague } from './mails/wrongColleague.ts';

/** Every check, in the order in which people wire a route. */
export const CHECKS: Check[] = [
  changedUnpublished,
  endingForConfirmed,
  endingPromises,
  endingSilent,
  goesNowhere,
  identifiesNobody,
  neverFilled,
  branchNeverReached,
  cannotBeRead,
  accessLacks,
  conditionContradicts,
  conditionIncomplete,
  conditionNeverHolds,
  conditionUnfit,
  conditionUnknown,
  connectionDown,
  lastCheckFailed,
  leadsNowhere,
  loop,
  neverTaken,
  notConnected,
  nothingApplies,
  oldCatalogue,
  refusesThoseWhoLeft,
  listOfAnotherPurpose,
  sameListTwice,
  tooSlow,
  cannotLeave,
  groupGone,
  impossiblePolicy,
  inAndOut,
  kindGone,
  leftPlaceGone,
  listGone,
  namelessTag,
  newTag,
  noKind,
  noList,
  noTagsThere,
  renamed,
  secondChangesFirst,
  tagOnAndOff,
  oneListOnly,
  tagsStayOn,
  takesAway,
  testPeople,
  cannotLook,
  chainBroken,
  choiceWithoutLookUp,
  clearsTheirs,
  fieldGone,
  flagFromWords,
  lineIncomplete,
  listIntoText,
  lookUpMisses,
  lookUpUnknownThere,
  mayBeTooLong,
  neverFits,
  notInSource,
  overwritesBetter,
  ownWords,
  personalInUrl,
  requiredFromOptional,
  requiredUnderCondition,
  requiredUnmapped,
  samplesLeftOut,
  severalForOne,
  unknownInText,
  wholeName,
  writtenValues,
  wrongAddress,
  boxGone,
  channelNotInPurpose,
  channelWithoutWhere,
  confirmationPlaceholders,
  confirmerAsksNobody,
  confirmerGone,
  confirmerUnknown,
  confirmsNothing,
  namesUnknown,
  namelessWords,
  namelessMail,
  listConfirmsUnknown,
  listWithoutConsent,
  needByAnotherChannel,
  needNotAsked,
  needsNothing,
  noAddressToConfirm,
  noChannel,
  noLink,
  noPurpose,
  noSubject,
  noWords,
  nobodyConfirms,
  purposeArchived,
  purposeGone,
  requiredBox,
  shortTime,
  tickedAlready,
  oneTickForTwo,
  twoConfirm,
  wordsOfAnother,
  answerWithoutAddress,
  mailUnknownField,
  mailWithoutSubject,
  mailWithoutText,
  tellsNobody,
  waitsForNothing,
  wrongColleague,
];
