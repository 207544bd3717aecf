export { fieldsFor } from './catalogue.ts';
export type { Abilities, Catalogue, CatalogueItem } from './catalogue.ts';
export { compareCatalogues, type CatalogueDifference } from './compareCatalogues.ts';
export { planSubmission, tagsFor } from './plan.ts';
export type { Intent, KnownPerson, LiveRoute, Plan } from './plan.ts';
export { preflight, type Finding } from './preflight.ts';
export { DUPLICATE_POLICIES } from './route.ts';
export type { ConsentPolicy, DuplicatePolicy, Place, RouteDocument, TagRule, Target } from './route.ts';
