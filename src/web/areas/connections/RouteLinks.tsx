import { Link } from 'react-router';

/** Names of routes in a row, each leading to its bench. */
export function RouteLinks({ routes }: { routes: { id: string; name: string }[] }) {
  return routes.map((route, index) => (
    <span key={route.id}>
      {index > 0 && ', '}
      <Link to={`/routes/${route.id}`} className="plain-link">
        {route.name}
      </Link>
    </span>
  ));
}
