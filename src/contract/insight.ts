import { IsIn, IsString, Length, ValidateIf } from 'class-validator';
import {
  SITE_KINDS,
  type Dimension,
  type FunnelStep,
  type Silence,
  type SiteKind,
  type Spans,
} from '../core/insight/index.ts';

export type Counts = Record<FunnelStep, number>;

/** One thing that was looked at to find out why nothing comes any more. ok: it is not that. */
export interface SilenceFinding {
  ok: boolean;
  found: string;
}

/** What was found out about a silence; since is null where there is none. */
export interface SilenceView {
  since: string | null;
  findings: SilenceFinding[];
}

/** One source in a period. */
export interface SourceInsight {
  id: string;
  name: string;
  kind: string;
  counts: Counts;
  /** In the period before, of the same length. */
  before: Counts;
  silence: Silence | null;
  /** Asked for by a click, or on its own page. */
  opened: number;
  /** Fetched what the form hands out. */
  downloaded: number;
  /** Came to the page that is its later goal. */
  reached: number;
  /** How long it took to fill in, and colleagues to answer; null where nothing was told. */
  took: Spans | null;
  replied: Spans | null;
}

/** How long each step of the trend is. */
export const TREND_UNITS = ['hour', 'day', 'week', 'month'] as const;
export type TrendUnit = (typeof TREND_UNITS)[number];

export interface TrendPoint {
  /** When it begins, in the zone that was asked for, such as 2026-11-27T00:00. */
  from: string;
  shown: number;
  completed: number;
}

export class SiteKindInput {
  @IsString()
  @Length(1, 120)
  host!: string;

  /** null for what its host says itself. */
  @ValidateIf(({ kind }: SiteKindInput) => kind !== null)
  @IsIn(SITE_KINDS)
  kind!: SiteKind | null;
}

export interface ValueInsight {
  value: string;
  /** What somebody said that it is, of a site that visitors come from; absent for other things. */
  kind?: SiteKind;
  counts: Counts;
  /** How often a question was answered; 0 for other things. */
  answered: number;
}

/** What came in, from where, and what became of it. */
export interface InsightView {
  /** From the beginning of this day to the end of that one. */
  from: string;
  to: string;
  /** The same as moments, in milliseconds since 1970: from, and up to but not with. */
  fromMs: number;
  toMs: number;
  sources: SourceInsight[];
  per: TrendUnit;
  trend: TrendPoint[];
  by: Dimension;
  values: ValueInsight[];
  /** How many values there are beside those. */
  more: number;
}
