import { IsString, Length, MaxLength } from 'class-validator';
import type { MadeKind } from '../core/intake/index.ts';
import type { PublishState } from '../core/states/index.ts';
import type { ConnectionView, DotLineData } from './connection.ts';

/** What stands in the lists of an installation, and is named and kept in folders there. */
export const ENTRY_KINDS = ['source', 'route', 'connection'] as const;
export type EntryKind = (typeof ENTRY_KINDS)[number];

/** How an entry of a list is called, and in which folder it stands. */
export class EntryInput {
  @IsString()
  @Length(1, 80, { message: 'Give it a name.' })
  name!: string;

  /** '' for none. */
  @IsString()
  @MaxLength(60, { message: 'The name of a folder has at most 60 signs.' })
  folder = '';
}

interface Line {
  id: string;
  name: string;
  /** '' for none. */
  folder: string;
  madeAt: string;
  hours: DotLineData;
}

/** A source as the list of them shows it. */
export interface SourceLine extends Line {
  kind: MadeKind;
  state: PublishState;
  liveVersion: number | null;
  changed: boolean;
  /** null while it is in use. */
  archivedAt: string | null;
  /** How many submissions came in the last 24 hours. */
  today: number;
}

/** A route as the list of them shows it. */
export interface RouteLine extends Line {
  state: PublishState;
  liveVersion: number | null;
  changed: boolean;
  archivedAt: string | null;
  sourceNames: string[];
  targetNames: string[];
  /** How many things stand in the way of what is drafted. */
  blockers: number;
  /** How many things are warned of in it that nobody let stand. */
  warnings: number;
  held: number;
}

/** A connection as the list of them shows it. */
export interface ConnectionLine
  extends
    Line,
    Pick<ConnectionView, 'serviceName' | 'state' | 'verify' | 'failures' | 'lastSuccessAt' | 'held' | 'waiting'> {
  /** How many routes lead there. */
  routes: number;
}

/** What stops when an entry is deleted. */
export interface DeletionImpactView {
  stops: string[];
  /** Why it stays; null where it can be deleted. */
  kept: string | null;
}
