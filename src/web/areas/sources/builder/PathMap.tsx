import type { LaidWay, Stop } from './pathMap.ts';

const ROW = 40;
const LEFT = 74;
const WIDTH = 280;
const THICKEST = 9;

/** The pages and endings of a form below each other, and the ways between them, as thick as many took them. */
export function PathMap({ stops, ways }: { stops: Stop[]; ways: LaidWay[] }) {
  const most = Math.max(1, ...ways.map(({ count }) => count));
  const rowOf = (id: string) => stops.findIndex((stop) => stop.id === id);
  const y = (row: number) => row * ROW + ROW / 2;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${stops.length * ROW}`}
      className="w-full"
      role="img"
      aria-label="Map of the ways through the form; the list below says the same"
    >
      {ways.map(({ from, to, count }) => {
        const [start, end] = [rowOf(from), rowOf(to)];
        const bend = LEFT - 6 - Math.min(LEFT - 12, (end - start) * 13);
        return (
          <path
            key={`${from} ${to}`}
            d={`M ${LEFT - 4} ${y(start) + 5} C ${bend} ${y(start) + 5}, ${bend} ${y(end) - 5}, ${LEFT - 4} ${y(end) - 5}`}
            fill="none"
            className={count > 0 ? 'stroke-primary' : 'stroke-base-300'}
            strokeWidth={count > 0 ? 1.5 + (THICKEST * count) / most : 1.5}
            strokeDasharray={count > 0 ? undefined : '3 3'}
            strokeOpacity={0.65}
          />
        );
      })}
      {stops.map(({ id, name, page }, row) => (
        <g key={id}>
          <circle
            cx={LEFT}
            cy={y(row)}
            r={6}
            className={page === null ? 'fill-primary stroke-primary' : 'fill-base-100 stroke-primary'}
            strokeWidth={2}
          />
          <text x={LEFT + 16} y={y(row) + 4} className="fill-base-content text-[13px]">
            {name.length > 28 ? `${name.slice(0, 27)}…` : name}
          </text>
        </g>
      ))}
    </svg>
  );
}
