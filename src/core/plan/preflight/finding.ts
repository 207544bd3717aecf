/** One thing that a check of a route found before it goes live. */
export interface Finding {
  level: 'blocker' | 'warning' | 'hint';
  /** The part of the route bench where it is mended. */
  part: 'source' | 'target' | 'mapping' | 'tags' | 'consent' | 'mails';
  message: string;
  fix: string;
  /** Which target it concerns, counted from 0; absent when it concerns the whole route. */
  target?: number;
}

export const blocker = (part: Finding['part'], message: string, fix: string): Finding => ({
  level: 'blocker',
  part,
  message,
  fix,
});
export const warning = (part: Finding['part'], message: string, fix: string): Finding => ({
  level: 'warning',
  part,
  message,
  fix,
});

export const hint = (part: Finding['part'], message: string, fix: string): Finding => ({
  level: 'hint',
  part,
  message,
  fix,
});
