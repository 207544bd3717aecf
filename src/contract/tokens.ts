import {
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
} from 'class-validator';

/** What a token may do, and what each is for. */
export const SCOPES = {
  'status:read': 'see whether Iwashi is well',
  'submissions:read': 'read what arrived, with the personal data in it',
  'deliveries:read': 'read what was sent, and what is held',
  'deliveries:act': 'retry, drop and settle what is held',
  'connections:read': 'see the connections, without their credentials',
  'connections:act': 'verify connections, pause them and let them go on',
  'metrics:read': 'read the figures for monitoring',
} as const;
export type Scope = keyof typeof SCOPES;

export class TokenInput {
  @IsString()
  @Length(1, 80, { message: 'Say what it is for, such as "monitoring".' })
  name!: string;

  @IsArray()
  @ArrayMinSize(1, { message: 'Choose at least one thing that it may do.' })
  @ArrayUnique()
  @IsIn(Object.keys(SCOPES), { each: true })
  scopes!: Scope[];

  /** After how many days it ends; null for never. */
  @IsOptional()
  @IsInt({ message: 'Enter whole days.' })
  @Min(1, { message: 'At least one day.' })
  @Max(3650, { message: 'At most ten years.' })
  days: number | null = null;
}

export interface TokenView {
  id: string;
  name: string;
  hint: string;
  scopes: Scope[];
  createdAt: string;
  lastUsedAt: string | null;
  expiresAt: string | null;
}

export interface NewTokenView extends TokenView {
  /** Shown this once. */
  token: string;
}
