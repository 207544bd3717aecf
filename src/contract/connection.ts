import { IsIn, IsOptional, IsString, Length, Matches, MaxLength } from 'class-validator';
import type { Catalogue } from '../core/plan/index.ts';

/** The kinds of service that this installation knows how to talk to. */
export const PROFILES = ['tern-post'] as const;

export class ConnectionInput {
  @IsIn(PROFILES, { message: 'Choose the kind of service.' })
  profile!: string;

  @IsString()
  @Length(1, 80, { message: 'Give the connection a name, such as "Tern Post, main account".' })
  name!: string;

  @IsString()
  @Length(1, 300, { message: 'Enter the base URL of the service.' })
  baseUrl!: string;

  /** Left out when an existing key stays. */
  @IsOptional()
  @IsString()
  @MaxLength(500, { message: 'This is longer than any key. Check what was pasted.' })
  @Matches(/^[\x21-\x7e]*$/, { message: 'The key has a blank or an unusual character in it. Copy it again.' })
  key?: string;
}

/** What verifying found. */
export type VerifyResult =
  | { ok: true; account: string; lists: number; groups: number; tags: number; fields: number; at: string }
  | { ok: false; problem: string; nextStep: string; about: 'baseUrl' | 'key' | 'service'; at: string };

export interface ConnectionView {
  id: string;
  profile: string;
  serviceName: string;
  name: string;
  baseUrl: string;
  /** The key, masked: its last characters only. */
  keyHint: string;
  verify: VerifyResult | null;
  catalogue: Catalogue | null;
  catalogueAt: string | null;
  lastSuccessAt: string | null;
  usedBy: { id: string; name: string }[];
  held: number;
  hours: DotLineData;
}

/** The last 24 hours, oldest first: how many went through, and whether something was held. */
export type DotLineData = { from: string; count: number; held: number }[];
