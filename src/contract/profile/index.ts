export { checkProfile } from './check.ts';
export { ProfileSchema } from './schema.ts';
export type {
  Authentication,
  Credential,
  CredentialName,
  FieldSource,
  ItemSource,
  Paging,
  Profile,
  RequestTemplate,
} from './schema.ts';
