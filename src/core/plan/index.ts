export { newWords, type NewWords } from './newWords.ts';
export { brokeOffIn, IMPORTED_AS, importedForPreview, type Imported } from './input.ts';
export { fieldsFor, listsOf, namesakeOf } from './catalogue.ts';
export type { Abilities, Catalogue, CatalogueItem, CatalogueList, NamedMaking } from './catalogue.ts';
export { compareCatalogues, type CatalogueDifference } from './compareCatalogues.ts';
export { usesOfField, type FieldUse } from './fieldUses.ts';
export { withFormerNames } from './formerNames.ts';
export { matchesSelection, isOfPeople } from './matchesSelection.ts';
export { wordingOf } from './asking.ts';
export { tagsFor } from './drafting.ts';
export { asksForKnown } from './input.ts';
export type { KnownPerson, LiveRoute, PlanInput } from './input.ts';
export { agreedBy, agreedId, knowledgeFields, knowledgeOf, NOBODY } from './knowledge.ts';
export { ALL_ANSWERS, ANSWER_REST_MS } from './mailing.ts';
export { syntheticPerson } from './syntheticPerson.ts';
export { planInboundEvent, type ConsentUsed } from './planInboundEvent.ts';
export { onceMore } from './onceMore.ts';
export { planSubmission } from './plan.ts';
export {
  findingKey,
  preflight,
  type CheckedConnection,
  type Finding,
  type PreflightInput,
  type PreflightSource,
} from './preflight/index.ts';
export { addressFieldOf, addressOf, readIntent, type Intent } from './intent.ts';
export {
  asksIn,
  deliveriesIn,
  mailsIn,
  PLAN_FORMAT,
  readPlan,
  type Action,
  type Deliver,
  type Mail,
  type Plan,
} from './planned.ts';
export { propagateWithdrawal, type AgreedThere, type PropagationInput } from './propagateWithdrawal.ts';
export { routeChanges, type RouteNames } from './routeChanges.ts';
export {
  judgeAll,
  judgeSample,
  ODDITIES,
  oddFirst,
  type Judging,
  type KnownSample,
  type SampleRow,
} from './sampleTable.ts';
export { conditionsIn, DUPLICATE_POLICIES, readRoute, ROUTE_FORMAT } from './route.ts';
export type {
  ConfirmedBy,
  ConsentAsk,
  ConsentPolicy,
  DuplicatePolicy,
  Place,
  RouteDocument,
  RouteMail,
  Target,
  TargetPlace,
  TargetTag,
} from './route.ts';
