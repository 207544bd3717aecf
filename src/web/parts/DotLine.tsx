import type { DotLineData } from '../../contract/connection.ts';

const GAP = 9;
const hour = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** Twenty-four dots, one an hour, filled by volume, ringed when something was held. */
export function DotLine({ hours, what }: { hours: DotLineData; what: string }) {
  const most = Math.max(1, ...hours.map(({ count }) => count));
  const total = hours.reduce((sum, { count }) => sum + count, 0);
  const held = hours.reduce((sum, entry) => sum + entry.held, 0);
  const label = `${total} ${what} in 24 hours${held > 0 ? `, ${held} held` : ''}`;
  return (
    <svg
      width={hours.length * GAP}
      height="16"
      viewBox={`0 0 ${hours.length * GAP} 16`}
      role="img"
      aria-label={label}
      className="shrink-0"
    >
      <title>{label}</title>
      {hours.map(({ from, count, held: stopped }, index) => {
        const x = index * GAP + GAP / 2;
        return (
          <g key={from}>
            <title>{`${hour.format(new Date(from))}: ${count} ${what}${stopped > 0 ? `, ${stopped} held` : ''}`}</title>
            <rect x={index * GAP} y="0" width={GAP} height="16" fill="transparent" />
            <circle
              cx={x}
              cy="8"
              r={count === 0 ? 1.2 : 1.6 + 2 * Math.sqrt(count / most)}
              fill={count === 0 ? 'var(--color-base-300)' : 'var(--color-primary)'}
            />
            {stopped > 0 && <circle cx={x} cy="8" r="4" fill="none" stroke="var(--color-error)" strokeWidth="1.4" />}
          </g>
        );
      })}
    </svg>
  );
}
