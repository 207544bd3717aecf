import {
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import { IMPORTED_AS, type Imported } from '../core/plan/index.ts';
import type { ImportState } from '../core/states/index.ts';
import { DELIMITERS, type InferredColumn, type Delimiter, type Written } from '../core/tables/index.ts';

/** What is said of the people in a file: it is kept as evidence of each consent that is taken over. */
export interface ImportEvidence extends Imported {
  /** Where they agreed. */
  where: string;
  /** On which day, or until when: such as 2026-03-01; '' where nobody agreed. */
  when: string;
}

export const NO_EVIDENCE: ImportEvidence = { agreed: 'no', words: '', where: '', when: '' };

/** What is said of the people in every file that comes by one way. */
class StandingEvidenceInput {
  @IsIn(IMPORTED_AS)
  agreed!: ImportEvidence['agreed'];

  @ValidateIf(({ agreed }: StandingEvidenceInput) => agreed !== 'no')
  @IsString()
  @Length(3, 1000, { message: 'Enter the words that they agreed to.' })
  words: string = '';

  @ValidateIf(({ agreed }: StandingEvidenceInput) => agreed !== 'no')
  @IsString()
  @Length(3, 300, { message: 'Say where they agreed, such as a form on paper, or a system.' })
  where: string = '';
}

export class ImportEvidenceInput extends StandingEvidenceInput implements ImportEvidence {
  @ValidateIf(({ agreed }: ImportEvidenceInput) => agreed !== 'no')
  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'Say when they agreed; where it was over a time, its last day.' })
  when: string = '';
}

/** What a file is, by what is in it. */
export type FileFormat = 'text' | 'lines' | 'json' | 'workbook' | 'spreadsheet' | 'cards';

/** How a file is read. */
export interface FileReading {
  format: FileFormat;
  /** A label of the WHATWG Encoding standard. */
  encoding: string;
  delimiter: Delimiter;
  header: boolean;
  /** The sheet that is read, of a file that may have several, and the names of all of them. */
  sheet?: string;
  sheets?: string[];
  /** What it was judged by. */
  because: string;
}

/** How far a list was fetched that is read page by page. */
export interface Fetched {
  /** Where it goes on: a path of the service, or values for its request; null once it is whole. */
  next: { path: string } | { values: Record<string, unknown> } | null;
  count: number;
  bytes: number;
}

/** How a file is read, where it was judged wrongly. */
export class ReadingInput {
  @IsString()
  @MaxLength(40)
  encoding!: string;

  @IsIn(DELIMITERS)
  delimiter!: Delimiter;

  @IsBoolean()
  header!: boolean;

  /** Of a file that has several. */
  @IsOptional()
  @IsString()
  @MaxLength(200)
  sheet?: string;

  /** By the names of columns. */
  @IsObject()
  written!: Record<string, Written>;
}

/** So many rows are taken between two words of how far it is. */
export const TAKEN_TOGETHER = 250;

export const MOST_A_MINUTE = 300_000;

export class ImportRunInput extends ImportEvidenceInput {
  @IsInt({ message: 'Enter how many rows a minute.' })
  @Min(1)
  @Max(MOST_A_MINUTE)
  perMinute!: number;
}

/** By which way files come to a source by themselves. */
export const FEED_WAYS = ['address', 'folder'] as const;
export type FeedBy = (typeof FEED_WAYS)[number];

/** Minutes: once a quarter of an hour to once a week. */
export const FEED_RHYTHMS = [15, 60, 360, 1440, 10_080] as const;

/** How files come to a source by themselves, and what becomes of them. */
export class FeedInput extends StandingEvidenceInput {
  @IsIn(FEED_WAYS)
  by!: FeedBy;

  /** '' to leave it as it is. */
  @ValidateIf(({ by }: FeedInput) => by === 'address')
  @IsString()
  @MaxLength(2000)
  address: string = '';

  @IsIn(FEED_RHYTHMS)
  everyMinutes!: number;

  /** Whether rows are taken at once; otherwise somebody is waited for. */
  @IsBoolean()
  takes!: boolean;

  @IsInt({ message: 'Enter how many rows a minute.' })
  @Min(1)
  @Max(MOST_A_MINUTE)
  perMinute!: number;
}

export interface FeedView {
  by: FeedBy;
  /** Without what is secret in it; '' for a folder. */
  address: string;
  everyMinutes: number;
  takes: boolean;
  evidence: ImportEvidence;
  perMinute: number;
  askedAt: string | null;
  /** When it last brought a file. */
  broughtAt: string | null;
  /** Why it brought none the last time; '' where nothing was the matter. */
  problem: string;
  nextAt: string;
}

/** The way by which files come to a source by themselves, if there is one; and the folder that would be looked into. */
export interface FeedsView {
  feed: FeedView | null;
  folder: string;
}

/** What would become of the rows of a file. */
export interface RehearsedCounts {
  rows: number;
  fresh: number;
  known: number;
  changed: number;
  possible: number;
  noConsent: number;
  nobody: number;
  refused: number;
  /** The same as in the file of before; absent where there is none. */
  unchanged?: number;
}

export const NOTHING_REHEARSED: RehearsedCounts = {
  rows: 0,
  fresh: 0,
  known: 0,
  changed: 0,
  possible: 0,
  noConsent: 0,
  nobody: 0,
  refused: 0,
};

export interface ImportCounts {
  taken: number;
  refused: number;
  /** The same as in the file of before, and not taken again; absent where there is none. */
  unchanged?: number;
  /** Where it is taken back: rows that were, people who are nobody any more, and deliveries that had gone and stay where they went. */
  undone?: number;
  gone?: number;
  stay?: number;
}

/** An import of a file, and how far it has come. */
export interface ImportView {
  id: string;
  name: string;
  size: number;
  state: ImportState;
  /** Why it cannot be read; '' while it can. */
  problem: string;
  at: string;
  by: string;
  endedAt: string | null;
  /** How many are fetched so far, where it is fetched; null for a file that somebody brought. */
  fetched: number | null;
  /** By which way it came by itself; null for one that somebody brought, or had fetched. */
  fedBy: FeedBy | null;
  /** How it is read; null until it was judged. */
  reading: FileReading | null;
  written: Record<string, Written>;
  columns: InferredColumn[];
  /** How many rows there are; 0 until it was judged. */
  total: number;
  evidence: ImportEvidence;
  perMinute: number;
  done: number;
  counts: ImportCounts;
  /** null until it was rehearsed, as it is read now. */
  rehearsed: RehearsedCounts | null;
}

/** The first rows of a file as they are read. */
export interface ImportRows {
  columns: string[];
  rows: { number: number; cells: Record<string, string> }[];
}
