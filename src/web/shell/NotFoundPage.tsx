import { Link } from 'react-router';
import { Empty } from '../parts/States.tsx';

export function NotFoundPage() {
  return (
    <Empty
      title="There is nothing at this address"
      action={
        <Link to="/" className="btn btn-sm">
          To the overview
        </Link>
      }
    >
      It may have been removed, or the address is incomplete.
    </Empty>
  );
}
