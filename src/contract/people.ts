import { IsIn, IsString, Length, MaxLength, ValidateIf } from 'class-validator';
import type { Channel, ConsentState } from '../core/consent/index.ts';
import type { Standing } from '../core/delivery/index.ts';
import type { EventMeaning } from './profile/index.ts';
import type { KeyKind } from '../core/identity/index.ts';
import type { FieldValue, KeepRule, Trust } from '../core/values/index.ts';
import type { DeliveryView } from './deliveries.ts';
import type { SubmissionRow } from './submissions.ts';
import type { ConsentEventView } from './consent.ts';

export interface PersonRow {
  id: string;
  email: string;
  phone: string;
  name: string;
  createdAt: string;
  updatedAt: string;
  consent: { purpose: string; channel: Channel; state: ConsentState }[];
}

/** What another system told us about a person. */
export interface NoticeView {
  connectionId: string;
  connectionName: string;
  /** The system's own word. */
  kind: string;
  meaning: EventMeaning | null;
  at: string;
  /** Whom it is about; null when we do not know them. */
  contactId: string | null;
}

/** How another system holds a person, asked this moment. */
export interface PlaceView {
  connectionId: string;
  connectionName: string;
  /** The kind of record; '' where there is but one. */
  kind: string;
  kindName: string;
  /** Why it could not be asked; null when it was. */
  problem: string | null;
  /** null when nobody of that address is there. */
  held: {
    /** Its own word for how the person stands, and what that means. */
    state: string;
    standing: Standing | null;
    lists: { id: string; name: string }[];
    groups: { id: string; name: string; list: string }[];
    tags: string[];
    fields: { label: string; value: string }[];
  } | null;
  /** What can be changed there from here. */
  can: { leaveLists: boolean; leaveGroups: boolean; untag: boolean; standings: Standing[] };
}

/** "put back" undoes the first two. */
export const PLACE_ACTS = ['take out', 'take tag off', 'put back', 'unsubscribe', 'subscribe'] as const;

/** One change of how another system holds a person. */
export class PlaceActInput {
  @IsIn(PLACE_ACTS)
  act!: (typeof PLACE_ACTS)[number];

  @IsString()
  @Length(1, 36)
  connectionId!: string;

  @IsString()
  @MaxLength(120)
  kind: string = '';

  @IsString()
  @MaxLength(120)
  list: string = '';

  @IsString()
  @MaxLength(120)
  group: string = '';

  @IsString()
  @MaxLength(120)
  tag: string = '';

  @ValidateIf(({ act }: PlaceActInput) => act === 'unsubscribe')
  @IsString()
  @Length(3, 300, { message: 'Say how the person asked for it; it is kept as evidence.' })
  reason: string = '';
}

/** Something by which a person is recognised, or is not because somebody else is. */
export interface KeyView {
  kind: KeyKind;
  value: string;
  recognises: boolean;
  /** null for those of before that was kept. */
  submissionId: string | null;
  saidAt: string | null;
  /** When they proved that it is theirs; null when they did not. */
  verifiedAt: string | null;
}

/** A value that a submission said of a person. */
export interface ClaimView {
  name: string;
  value: FieldValue;
  rule: KeepRule;
  /** How far its source was trusted. */
  trust: Trust;
  at: string;
  submissionId: string;
}

export interface PersonView extends PersonRow {
  notices: NoticeView[];
  keys: KeyView[];
  values: ClaimView[];
  /** Everything that was ever taken over, newest first. */
  history: ClaimView[];
  mergings: { kind: 'merged' | 'split'; contactId: string; intoId: string; at: string; by: string; reason: string }[];
  events: ConsentEventView[];
  submissions: SubmissionRow[];
  deliveries: DeliveryView[];
}
