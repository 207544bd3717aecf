import type { ToldStep } from '../../mapping/index.ts';

/** One thing that a check of a route found before it goes live. */
export interface Finding {
  level: 'blocker' | 'warning' | 'hint';
  /** Of the check that found it; '' for those that are not checks of their own yet. */
  code: string;
  /** The part of the route bench where it is mended. */
  part: 'source' | 'target' | 'mapping' | 'tags' | 'consent' | 'mails';
  message: string;
  fix: string;
  /** Why it matters; '' where the message says so. */
  why: string;
  /** Which target it concerns, counted from 0; absent when it concerns the whole route. */
  target?: number;
  /** The field there whose line it concerns. */
  line?: string;
  /** A step that mends it, put at the end of that line. */
  mend?: ToldStep;
}

const finding =
  (level: Finding['level']) =>
  (part: Finding['part'], message: string, fix: string): Finding => ({ level, code: '', part, message, fix, why: '' });

export const blocker = finding('blocker');
export const warning = finding('warning');
export const hint = finding('hint');
