import type { ToldStep } from '../../mapping/index.ts';

/** One thing that a check of a route found before it goes live. */
export interface Finding {
  level: 'blocker' | 'warning' | 'hint';
  /** Of the check that found it. */
  code: string;
  /** The part of the route bench where it is mended. */
  part: 'source' | 'target' | 'mapping' | 'tags' | 'consent' | 'mails';
  message: string;
  fix: string;
  /** Why it matters. */
  why: string;
  /** Which target it concerns, counted from 0; absent when it concerns the whole route. */
  target?: number;
  /** The field there whose line it concerns. */
  line?: string;
  /** The connection on whose page it is mended; absent where it is mended on the bench. */
  connectionId?: string;
  /** A step that mends it, put at the end of that line. */
  mend?: ToldStep;
  /** Why somebody lets it stand, if they do. */
  accepted?: string;
}
