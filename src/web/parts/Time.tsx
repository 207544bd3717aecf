import { useNow } from './useNow.ts';

const STEPS: [Intl.RelativeTimeFormatUnit, number][] = [
  ['year', 365 * 86_400],
  ['month', 30 * 86_400],
  ['week', 7 * 86_400],
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60],
];
const relative = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
const exact = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });

export function sayWhen(iso: string, now: number): string {
  const seconds = (Date.parse(iso) - now) / 1000;
  // What comes in 71 hours and 59 minutes comes in 3 days; what was so long ago has been for 2.
  const isComing = seconds > 0;
  const slack = (at: number): number => (isComing ? (STEPS[at + 1]?.[1] ?? 1) / 2 : 0);
  const step = STEPS.find(([, length], at) => Math.abs(seconds) >= length - slack(at));
  return step
    ? relative.format((isComing ? Math.round : Math.trunc)(seconds / step[1]), step[0])
    : Math.abs(seconds) < 10
      ? seconds > 0
        ? 'in a moment'
        : 'just now'
      : relative.format(Math.round(seconds), 'second');
}

/**
 * A time, relative, with the exact one on hover. One that is not `coming` is never said to be: the server's clock may be
 * a little ahead, and ours is read every few seconds only.
 */
export function Time({ at, coming = false }: { at: string; coming?: boolean }) {
  const ticked = useNow();
  const now = coming ? ticked : Math.max(ticked, Date.parse(at));
  return (
    <time dateTime={at} title={exact.format(new Date(at))} className="whitespace-nowrap">
      {sayWhen(at, now)}
    </time>
  );
}

export function ExactTime({ at }: { at: string }) {
  return (
    <time dateTime={at} className="whitespace-nowrap">
      {exact.format(new Date(at))}
    </time>
  );
}
