export {
  allSteps,
  chatFaceOf,
  fieldsFilledBy,
  fieldsOfFaces,
  FINISHED_FIELD,
  UNFINISHED,
  waysFrom,
  type ChatFace,
  type ChatPart,
  type ChatParts,
  type ChatRule,
  type ChatStep,
  type Hours,
  type StepKind,
  type Unfinished,
} from './chat.ts';
export { checkChat, type ChatFinding } from './check.ts';
export {
  afterColleague,
  answerChat,
  awaited,
  beginChat,
  isWithin,
  toldColleague,
  type Awaited,
  type ChatFacts,
  type ChatInput,
  type ChatLine,
  type ChatSaying,
  type ChatState,
  type ChatTurn,
} from './engine.ts';
export { DAYS, printScript, readScript, type Scripted, type ScriptIssue } from './script.ts';
export { understand, understandChoice, understandYesNo } from './understand.ts';
