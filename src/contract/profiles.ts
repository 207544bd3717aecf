import { IsObject, IsOptional, IsString, Length, MaxLength, ValidateIf } from 'class-validator';
import type { ExchangeView } from './deliveries.ts';
import type { PartIssue } from './checks.ts';
import type { CredentialInputs } from './connection.ts';
import type { SentValue } from '../core/mapping/index.ts';
import type { Catalogue } from '../core/plan/index.ts';
import type { Profile } from './profile/index.ts';

/** Which operation of a described API does what; '' for none. */
export interface OperationChoice {
  verify: string;
  lists: string;
  groups: string;
  tags: string;
  fields: string;
  find: string;
  upsert: string;
  make: string;
  change: string;
  intoList: string;
  intoGroup: string;
  tag: string;
  outOfList: string;
  outOfGroup: string;
  untag: string;
  unsubscribe: string;
  subscribe: string;
  makeList: string;
  makeGroup: string;
  makeTag: string;
  makeField: string;
  remove: string;
}

const LONGEST_DOCUMENT = 900_000;

export class DescriptionInput {
  /** The document itself; '' when it is to be fetched. */
  @IsString()
  @MaxLength(LONGEST_DOCUMENT, { message: 'This is longer than any description that can be read here.' })
  text: string = '';

  @ValidateIf(({ text }: DescriptionInput) => text === '')
  @IsString()
  @Length(8, 500, { message: 'Paste the description, or give its address.' })
  url: string = '';

  /** null guesses it. */
  @IsOptional()
  @IsObject()
  choice: OperationChoice | null = null;
}

export class CurlInput {
  @IsString()
  @Length(5, 20_000, { message: 'Paste the whole line, from curl on.' })
  line!: string;
}

export class ProfileInput {
  @IsObject({ message: 'This is not a profile.' })
  document!: Record<string, unknown>;
}

export class TrialInput extends ProfileInput {
  @IsString()
  @Length(1, 300, { message: 'Enter the base URL.' })
  baseUrl!: string;

  @IsObject()
  credentials: CredentialInputs = {};

  @IsString()
  @Length(1, 20)
  operation!: string;

  /** The address that finding and writing are tried with. */
  @IsString()
  @MaxLength(254)
  email: string = '';

  @IsObject()
  fields: Record<string, SentValue> = {};

  /** A place and a tag that writing, placing and taking out are tried with; '' for none. */
  @IsString()
  @MaxLength(120)
  list: string = '';

  @IsString()
  @MaxLength(120)
  group: string = '';

  @IsString()
  @MaxLength(120)
  tag: string = '';
}

export interface DescriptionView {
  title: string;
  operations: { id: string; method: string; path: string; summary: string }[];
  choice: OperationChoice;
  profile: Profile;
}

/** What came of trying one operation of a profile. */
export interface TrialView {
  ok: boolean;
  /** In a sentence: what came back, or what is wrong. */
  outcome: string;
  /** What the service offers, where it was asked for that. */
  offers: Pick<Catalogue, 'lists' | 'tags' | 'fields'> | null;
  exchanges: ExchangeView[];
}

export type CheckedProfileView = { ok: true; profile: Profile } | { ok: false; issues: PartIssue[] };
