import { useState } from 'react';
import { Link } from 'react-router';

/** More are shown when somebody asks for them. */
const MOST_SHOWN = 12;

/** Names of routes in a row, each leading to its bench. */
export function RouteLinks({ routes }: { routes: { id: string; name: string }[] }) {
  const [all, setAll] = useState(false);
  const shown = all ? routes : routes.slice(0, MOST_SHOWN);
  return (
    <>
      {shown.map((route, index) => (
        <span key={route.id}>
          {index > 0 && ', '}
          <Link to={`/routes/${route.id}`} className="plain-link">
            {route.name}
          </Link>
        </span>
      ))}
      {shown.length < routes.length && (
        <>
          {' and '}
          <button className="plain-link" onClick={() => setAll(true)}>
            {routes.length - shown.length} more
          </button>
        </>
      )}
    </>
  );
}
