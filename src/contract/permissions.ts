import { SCOPES, type Scope } from './tokens.ts';

/** What only people who are signed in may do: no token is given these. */
type ForPeople =
  | 'own session'
  | 'overview:read'
  | 'people:read'
  | 'people:act'
  | 'connections:details'
  | 'connections:write'
  | 'profiles:read'
  | 'profiles:write'
  | 'sources:read'
  | 'sources:write'
  | 'routes:read'
  | 'routes:write'
  | 'purposes:read'
  | 'purposes:write'
  | 'tokens:write'
  | 'changes:read';

/** What an address of the API may be asked for. Every address names one. */
export type Permission = Scope | ForPeople;

/** Whether a permission can be given to a token. */
export const isScope = (permission: Permission): permission is Scope => permission in SCOPES;
