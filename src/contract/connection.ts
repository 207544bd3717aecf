import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  MaxLength,
} from 'class-validator';
import type { Cause } from '../core/delivery/index.ts';
import { DESTINATION_FIELD_TYPES, type DestinationFieldType } from '../core/mapping/index.ts';
import type { Abilities, Catalogue, CatalogueDifference } from '../core/plan/index.ts';
import type { ConnectionState } from '../core/states/index.ts';
import type { Credential, CredentialName, Profile } from './profile/index.ts';
import { EachPart } from './parts.ts';

/** What a person has to paste to connect: checked one by one against what the profile asks for. */
export type CredentialInputs = Partial<Record<CredentialName, string>>;

const LONGEST_CREDENTIAL = 2000;

/** What is wrong with a pasted credential; null when nothing is. Passwords may have blanks in them, keys have none. */
export function credentialTrouble(name: CredentialName, value: string): string | null {
  if (value.length > LONGEST_CREDENTIAL) return 'This is longer than any such thing. Check what was pasted.';
  const isFree = name === 'password' || name === 'user';
  const fits = isFree ? !/\p{Cc}/u.test(value) : /^[\x21-\x7e]*$/.test(value);
  return fits ? null : 'There is a blank, a line break or an unusual character in it. Copy it again.';
}

export class ConnectionInput {
  @IsString()
  @Length(1, 60, { message: 'Choose the kind of service.' })
  profile!: string;

  @IsString()
  @Length(1, 80, { message: 'Give the connection a name, such as "Tern Post, main account".' })
  name!: string;

  @IsString()
  @Length(1, 300, { message: 'Enter the address of the service.' })
  baseUrl!: string;

  /** Those left out, when a connection is changed, stay as they are. */
  @IsObject()
  credentials: CredentialInputs = {};
}

/** What is said of an answer about access by which none came: it was refused, or it was used before, is too old, or somebody else's. */
export const GRANT_NOTICES = ['refused', 'used'] as const;
export type GrantNotice = (typeof GRANT_NOTICES)[number];

/** What verifying found. */
export type VerifyResult =
  | {
      ok: true;
      account: string;
      lists: number;
      groups: number;
      tags: number;
      fields: number;
      kinds: number;
      /** Why nothing is proved by it: what could not be asked there. Absent where it was asked who we are, and it answered. */
      untried?: string;
      at: string;
    }
  | {
      ok: false;
      problem: string;
      nextStep: string;
      /** The part of what was entered that has to be looked at; 'service' when it is none of them. */
      about: 'baseUrl' | 'service' | CredentialName;
      /** A base URL that may be meant instead of the one that was entered. */
      instead?: string;
      /** Whether the service answered that it does not take these credentials. */
      refused: boolean;
      /** The permissions that its access has not, where it said which it has. */
      lacks?: string[];
      at: string;
    };

export interface ConnectionView {
  id: string;
  profile: string;
  serviceName: string;
  /** How the service is spoken to, and whether the address is itself the secret. */
  authentication: Profile['authentication']['kind'];
  credentials: Credential[];
  baseUrlLabel: string;
  name: string;
  /** In which folder of the list it stands; '' for none. */
  folder: string;
  /** Redacted when it is a secret. */
  baseUrl: string;
  /** The ends of the credentials. */
  hints: Partial<Record<CredentialName, string>>;
  state: ConnectionState;
  /** Where access is granted to, in the other system; '' when nothing is to be granted. */
  returnUrl: string;
  tokenUntil: string | null;
  verify: VerifyResult | null;
  /** Other connections to the same account, as far as that is seen. */
  sameAs: { id: string; name: string }[];
  catalogue: Catalogue | null;
  catalogueAt: string | null;
  changes: (CatalogueDifference & { routes: { id: string; name: string }[] })[];
  changesAt: string | null;
  /** When an answer of it was found to be untrue: since then each delivery is looked at; null while answers are true. */
  answerUntrueAt: string | null;
  lastSuccessAt: string | null;
  lastFailure: { at: string; cause: Cause; said: string } | null;
  /** How many tries failed in a row for something that concerns the whole service. */
  failures: number;
  /** Until when nothing is sent, since the service failed too often or asked for it. */
  restsUntil: string | null;
  limits: {
    perSecond: number | null;
    burst: number | null;
    atOnce: number;
    /** How many requests of the burst are taken at the moment, by all workers; null when there is no pace to keep. */
    used: number | null;
  };
  usedBy: { id: string; name: string }[];
  waiting: number;
  held: number;
  hours: DotLineData;
  /** Whether the service tells us what happens there: null when it cannot. */
  notices: {
    on: boolean;
    since: string | null;
    provenAt: string | null;
    /** Where Iwashi has to be reachable from there. */
    reachedAt: string;
  } | null;
}

/** A kind of service that can be connected, as the list of them shows it. */
export interface ProfileView {
  id: string;
  name: string;
  purpose: string;
  words: string[];
  isOwn: boolean;
  authentication: Profile['authentication']['kind'];
  speaks: Profile['speaks'];
  baseUrl: Profile['baseUrl'];
  credentials: Credential[];
  /** What it cannot do, in words. */
  cannot: string[];
  /** What it calls its places. */
  calls: Abilities['calls'];
  /** Where access is granted to; '' when nothing is to be granted. */
  returnUrl: string;
  /** Whether it can tell us what happens there. */
  tells: boolean;
}

export class MakingInput {
  @IsIn(['list', 'group', 'tag', 'field'])
  what!: 'list' | 'group' | 'tag' | 'field';

  @IsString()
  @Length(1, 120, { message: 'Give it a name.' })
  @Matches(/\S/, { message: 'Give it a name.' })
  name!: string;

  @IsOptional()
  @IsString()
  @MaxLength(120)
  list: string = '';

  @IsOptional()
  @IsString()
  @MaxLength(120)
  kind: string = '';

  /** What a field takes. */
  @IsOptional()
  @IsIn(DESTINATION_FIELD_TYPES)
  type: DestinationFieldType = 'text';

  /** Of a field that is a choice. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  choices: string[] = [];
}

/** The most that is made there at one go. */
const MOST_MADE = 50;

export class MakingsInput {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_MADE)
  @EachPart(() => MakingInput)
  makings!: MakingInput[];
}

/** What was made there, in the order asked for, up to what could not be. */
export interface MadeView {
  ids: string[];
  /** Why the one after those was not made; null when all were. */
  trouble: string | null;
  connection: ConnectionView;
}

/** The last 24 hours, oldest first: how many went through, and whether something was held. */
export type DotLineData = { from: string; count: number; held: number }[];
