import { Link } from 'react-router';
import type { OverviewView } from '../../../contract/overview.ts';
import { COLUMNS, layoutFlows, NODE } from './flowLayout.ts';

/** The flow map, computed from the live routes. */
export function FlowMapView({ flows }: { flows: OverviewView['flows'] }) {
  const { nodes, strands, height } = layoutFlows(flows);
  const width = COLUMNS.connection + NODE.width;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Flow map">
      <div
        className="grid text-sm text-muted font-semibold mb-1"
        style={{ width, gridTemplateColumns: `${COLUMNS.route}px ${COLUMNS.connection - COLUMNS.route}px 1fr` }}
      >
        <span>Sources</span>
        <span>Routes</span>
        <span>Destinations</span>
      </div>
      <svg width={width} height={height} role="group" aria-label="Flows of the last seven days">
        {strands.map(({ id, from, to, width: thickness, label, held }) => {
          const [x1, y1] = [from.x + NODE.width, from.y + NODE.height / 2];
          const [x2, y2] = [to.x, to.y + NODE.height / 2];
          const middle = (x1 + x2) / 2;
          return (
            <g key={id}>
              <path
                d={`M${x1} ${y1} C${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`}
                fill="none"
                stroke="var(--color-primary)"
                strokeOpacity="0.45"
                strokeWidth={thickness}
              >
                <title>{label}</title>
              </path>
              {held > 0 && (
                <g>
                  <title>{`${held} held`}</title>
                  <circle
                    cx={middle}
                    cy={(y1 + y2) / 2}
                    r="11"
                    fill="var(--color-base-100)"
                    stroke="var(--color-error)"
                    strokeWidth="2"
                  />
                  <text
                    x={middle}
                    y={(y1 + y2) / 2 + 4}
                    textAnchor="middle"
                    fontSize="12"
                    fontWeight="600"
                    fill="var(--color-error)"
                  >
                    {held}
                  </text>
                </g>
              )}
            </g>
          );
        })}
        {nodes.map(({ id, name, link, x, y }) => (
          <foreignObject key={id} x={x} y={y} width={NODE.width} height={NODE.height}>
            <Link
              to={link}
              className="h-full flex items-center px-3 border border-base-300 rounded bg-base-100 hover:border-primary leading-tight"
            >
              {name}
            </Link>
          </foreignObject>
        ))}
      </svg>
      <ul className="sr-only">
        {strands.map(({ id, from, to, label }) => (
          <li key={id}>{`${from.name} to ${to.name}: ${label}`}</li>
        ))}
      </ul>
    </div>
  );
}
