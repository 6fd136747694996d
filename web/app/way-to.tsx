import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** A line of the header's row that says what waits elsewhere; a link that is itself the status would have no name. */
export const WayTo = ({ to, children }: { to: string; children: ReactNode }) => (
  <div role="status" className="flex-auto bg-warning px-5 py-0.5">
    <Link to={to} className="text-on-warning underline">
      {children}
    </Link>
  </div>
);
